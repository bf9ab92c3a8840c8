using System.Globalization;
using Vitrine.Core.Gather;
using Vitrine.Core.Text;
using Vitrine.Formats;
using Vitrine.Server.Reading;
using Vitrine.Storage;
using Vitrine.Storage.Access;
using Vitrine.Storage.Gather;

namespace Vitrine.Server.Gather;

/// <summary>What every text passes on its way into a study, whether it was pasted or came as a file.</summary>
internal sealed class TextGate(ParticipantStore participants, AccountStore accounts, FileReader reader)
{
    /// <summary>What is said of a file that is a table.</summary>
    public const string IsTable = "It is a table. Say what its columns are, and its rows become participants and answers.";

    /// <summary>The names by which the team may be called in a transcript.</summary>
    public IReadOnlyCollection<string> TeamNames() => [.. accounts.All().Select(a => a.Name)];

    /// <summary>Reads a text with what the study knows of names.</summary>
    /// <exception cref="Refusal">It cannot be read, or is longer than a source may be.</exception>
    public ReadSource Read(long studyId, string field, Func<Func<string, bool>, ReadSource> reader)
    {
        var (people, team) = (participants.Known(studyId), TeamNames());
        var read = Readable(field, () => reader(name => SpeakerMatching.Knows(name, people, team)));
        return Readable(field, () => read.Bounded(name => SpeakerMatching.Knows(name, people, team)));
    }

    /// <summary>Has a file read with what the study knows of names.</summary>
    /// <exception cref="Refusal">It cannot be read, or is longer than a source may be.</exception>
    public Task<ReadSource> Read(long studyId, string name, string path, CancellationToken cancel) => reader.Source(name, path, participants.Known(studyId), TeamNames(), cancel);

    /// <summary>What a reader makes of a file or a text.</summary>
    /// <exception cref="Refusal">It cannot be read, with the reader's sentence.</exception>
    public static T Readable<T>(string field, Func<T> read)
    {
        try
        {
            return read();
        }
        catch (UnreadableException problem)
        {
            throw Refusal.Because(problem.Message, field);
        }
    }

    /// <summary>"1 turn", "1,200 turns".</summary>
    public static string Count(int n, string one) => string.Create(CultureInfo.InvariantCulture, $"{n:N0} {one}{(n == 1 ? "" : "s")}");

    /// <summary>A source's turns by each style in which they can be written.</summary>
    public IReadOnlyList<(TurnStyle Style, IReadOnlyList<Turn> Turns)> Readings(Source source) => [.. Enum.GetValues<TurnStyle>().Select(style => (style, Reading(source.StudyId, source.Text, source.Shape, style)))];

    private IReadOnlyList<Turn> Reading(long studyId, string text, Shape? shape, TurnStyle style)
    {
        var (people, team) = (participants.Known(studyId), TeamNames());
        return TurnReading.Of(text, name => SpeakerMatching.Knows(name, people, team), shape?.Blocks, style);
    }

    /// <summary>What a corrected text makes of a source: its turns are read anew in the way they were read before; where they were read in no known way, they move along.</summary>
    /// <exception cref="Refusal">The text is too long or holds no words, or the source has none.</exception>
    public Correction Corrected(Source source, string text, string basedOn)
    {
        if (text.Length > Limits.SourceText) throw TooLong(text.Length, "text");
        if (source.Text.Length == 0) throw Refusal.Because("This source is a recording or a picture; it has no text to correct.", "text");
        var canonical = CanonicalText.From(text).Trim('\n', ' ');
        if (!canonical.Any(char.IsLetterOrDigit)) throw Refusal.Because("There are no words left in it. To take a source away, remove it in Gather.", "text");
        var moved = Reanchor.Between(source.Text, canonical);
        var shape = source.Shape is { } before ? Core.Text.Corrected.ShapeOf(moved, before) : null;
        var old = source.ReadTurns();
        var style = Readings(source).Where(r => r.Turns.Select(t => (t.Words, t.Speaker)).SequenceEqual(old.Select(t => (t.Words, t.Speaker)))).Select(r => (TurnStyle?)r.Style).FirstOrDefault();
        var turns = style is { } known ? Core.Text.Corrected.WithTimes(moved, old, Reading(source.StudyId, canonical, shape, known)) : Core.Text.Corrected.TurnsOf(moved, old);
        return new Correction(basedOn, moved, turns, shape);
    }

    /// <summary>A title for a file: its name without the ending.</summary>
    public static string TitleOf(string fileName) => Path.GetFileNameWithoutExtension(fileName) is { Length: > 0 } stem ? stem[..Math.Min(stem.Length, Limits.Title)] : fileName;

    public static Refusal TooLong(long length, string field) => Refusal.Because(ReadSource.TooLong(length).Message, field);

    /// <summary>A day as year-month-day, or null.</summary>
    /// <exception cref="Refusal">It is none.</exception>
    public static string? Day(string? value)
    {
        if (string.IsNullOrWhiteSpace(value)) return null;
        return DateOnly.TryParseExact(value, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out _)
            ? value
            : throw Refusal.Because("Type the date as year-month-day, such as 2026-03-14.", "heldOn");
    }
}
