using Vitrine.Core.Text;

namespace Vitrine.Core.Gather.Sources;

/// <summary>Where one pasted note ends and the next begins.</summary>
public enum NoteBreak
{
    /// <summary>Each line is a note.</summary>
    Line,

    /// <summary>A blank line ends a note.</summary>
    BlankLine,
}

/// <summary>Cuts pasted text into notes.</summary>
public static class NoteSplit
{
    private const int TitleLength = 60;

    /// <summary>The notes in order, each canonical; what holds only white space is none.</summary>
    public static IReadOnlyList<string> Of(string pasted, NoteBreak at)
    {
        var lines = CanonicalText.From(pasted).Split('\n');
        if (at == NoteBreak.Line)
            return [.. lines.Select(l => l.Trim()).Where(l => l.Length > 0)];
        var notes = new List<string>();
        var open = new List<string>();
        foreach (var line in lines.Append(""))
        {
            if (!string.IsNullOrWhiteSpace(line))
            {
                open.Add(line);
                continue;
            }
            if (open.Count > 0)
                notes.Add(string.Join('\n', open).Trim());
            open.Clear();
        }
        return notes;
    }

    /// <summary>What a note is called: its first words.</summary>
    public static string TitleOf(string note)
    {
        var line = note.Split('\n')[0];
        if (line.Length <= TitleLength)
            return line;
        var space = line.LastIndexOf(' ', TitleLength);
        var cut =
            space > TitleLength / 2 ? space
            : char.IsHighSurrogate(line[TitleLength - 1]) ? TitleLength - 1
            : TitleLength;
        return line[..cut].TrimEnd() + "…";
    }
}
