using System.Text.RegularExpressions;

namespace Vitrine.Core.Gather.Turns;

/// <summary>What is made of the lines that may open turns, in one style.</summary>
/// <param name="Opening">Those that do, with names in their first spelling.</param>
/// <param name="Doubtful">The labels that a person should look at.</param>
/// <param name="Established">Whether the text is written in this style.</param>
/// <param name="Score">How much speaks for it: lines, those that are doubtful by half.</param>
internal sealed record JudgedHeads(IReadOnlyList<TurnHead> Opening, IReadOnlyList<DoubtfulLabel> Doubtful, bool Established, double Score);

/// <summary>Judges which labels of a text are names of speakers.</summary>
internal sealed partial class Labels(string text, TurnAids aids)
{
    private enum Verdict
    {
        Speaker,
        Doubtful,
        Words,
        Nothing,
    }

    private readonly Dictionary<string, bool> choices =
        aids.Choices?.GroupBy(c => Key(c.Key)).ToDictionary(g => g.Key, g => g.Last().Value) ?? [];
    private readonly Lazy<Dictionary<string, int>> smallWords = new(() => SmallWordsIn(text));

    public JudgedHeads Judge(IReadOnlyList<TurnHead> heads)
    {
        var named = heads.Where(h => h.Name is not null).GroupBy(h => Key(h.Name!)).ToDictionary(g => g.Key, g => new Label(g.ToList()));
        var questions = named.ContainsKey("Q") && named.ContainsKey("A");
        foreach (var label in named.Values)
            label.Verdict = Of(label, questions);
        var unnamed = Unnamed(heads);
        var sure = named.Values.Where(l => l.Verdict == Verdict.Speaker).Sum(l => l.Heads.Count) + unnamed.Count;
        var doubted = named.Values.Where(l => l.Verdict == Verdict.Doubtful).ToList();
        var timed = doubted.Sum(l => l.Heads.Count(h => h.Time is not null));
        var isLoose = heads.Count > 0 && IsLoose(heads[0].Style);
        var established = sure >= 2 || (!isLoose && ((sure == 1 && doubted.Count > 0) || timed >= 2));
        // What is written as a usual word in the text is a name only beside names.
        var opening = heads
            .Where(h => h.Name is null ? unnamed.Contains(h) : named[Key(h.Name)].Verdict is Verdict.Speaker or Verdict.Doubtful)
            .Select(h => h.Name is null ? h : h with { Name = named[Key(h.Name)].Spelling })
            .ToList();
        var doubtful = named
            .Values.Where(l =>
                l.Verdict == Verdict.Doubtful
                || (l.Verdict == Verdict.Words && established && !l.Heads.TrueForAll(h => h.Style == TurnStyle.NameOnItsOwnLine))
            )
            .Select(l => new DoubtfulLabel(l.Spelling, l.Heads.Count, l.Heads[0].LineStart, l.Verdict == Verdict.Doubtful))
            .OrderBy(d => d.Start)
            .ToList();
        var weight = heads.Count == 0 ? 0 : Weight(heads[0].Style);
        return new JudgedHeads(opening, doubtful, established, weight * (sure + doubted.Sum(l => l.Heads.Count) / 2.0));
    }

    /// <summary>Marks of change come at least twice; times alone at least three times, and go forward.</summary>
    private static HashSet<TurnHead> Unnamed(IReadOnlyList<TurnHead> heads)
    {
        var unnamed = heads.Where(h => h.Name is null).ToList();
        var marks = unnamed.Where(h => h.Style != TurnStyle.TimesAlone).ToList();
        var times = unnamed.Where(h => h.Style == TurnStyle.TimesAlone).ToList();
        var forward = times.Zip(times.Skip(1)).All(p => p.First.Time!.Value.BeginMs <= p.Second.Time!.Value.BeginMs);
        return [.. marks.Count >= 2 ? marks : [], .. times.Count >= 3 && forward ? times : []];
    }

    private static double Weight(TurnStyle style) =>
        style switch
        {
            TurnStyle.TableColumns => 3,
            TurnStyle.NameOnItsOwnLine or TurnStyle.NameInBrackets => 0.9,
            TurnStyle.NameAndDash => 0.6,
            TurnStyle.TimesAlone => 0.4,
            _ => 1,
        };

    private Verdict Of(Label label, bool questions)
    {
        var style = label.Heads[0].Style;
        if (Choice(label) is { } speaks)
            return speaks ? Verdict.Speaker : Verdict.Nothing;
        if (aids.IsKnown is { } known && label.Names.Any(n => known(n) || known(SpeakerLabel.Bare(n))))
            return Verdict.Speaker;
        if (style == TurnStyle.QuestionAndAnswer)
            return questions ? Verdict.Speaker : Verdict.Nothing;
        var look = SpeakerLabel.Of(label.Spelling);
        var (loose, single) = (IsLoose(style), SpeakerLabel.Bare(label.Spelling).Length == 1);
        if (look == LabelLook.Role && !(loose && (single || label.Heads.Count < 2)))
            return Verdict.Speaker;
        if (look == LabelLook.Role && !single)
            return Verdict.Doubtful;
        if (look == LabelLook.Prose)
            return Verdict.Nothing;
        // In these styles a label is told from words that are just said by what it is and by what stands around it.
        if (loose && (look != LabelLook.Name || char.IsLower(label.Spelling[0])))
            return Verdict.Nothing;
        if (style == TurnStyle.NameOnItsOwnLine && !label.Heads.TrueForAll(StandsLikeAName))
            return Verdict.Nothing;
        if (look == LabelLook.Word)
            return SpeakerLabel.IsOfNotes(label.Spelling) || label.Heads.Exists(h => !NewSentence(h)) ? Verdict.Words : Verdict.Doubtful;
        if (label.Heads.Count < 2 && char.IsLower(label.Spelling[0]))
            return Verdict.Nothing;
        // A time beside a name speaks for it, unless the line holds nothing else: then it may be a word that was said.
        if (label.Heads.Count < 2)
            return label.Heads[0] is { Time: not null, Alone: false, Loose: false } ? Verdict.Speaker : Verdict.Doubtful;
        return IsUsualWord(label) ? Verdict.Doubtful : Verdict.Speaker;
    }

    /// <summary>Styles in which words that are just said look like labels.</summary>
    private static bool IsLoose(TurnStyle style) =>
        style is TurnStyle.NameAndDash or TurnStyle.NameInBrackets or TurnStyle.NameOnItsOwnLine;

    /// <summary>Whether a line with nothing but a label follows the end of a sentence or an empty line, and words follow it.</summary>
    private bool StandsLikeAName(TurnHead head)
    {
        var before = head.LineStart - 1;
        while (before >= 0 && text[before] is ' ')
            before--;
        if (before > 0 && text[before] == '\n' && text[before - 1] != '\n')
            before--;
        // A time on a line of its own over it parts it from what was said before.
        var apart = before < 0 || head.Time is not null || text[before] is '\n' or '.' or '?' or '!' or '…' or '"' or '”' or ')' or ']';
        return apart && head.WordsStart < text.Length && !char.IsLower(text[head.WordsStart]);
    }

    /// <summary>Whether what follows the label begins like a sentence of its own.</summary>
    private bool NewSentence(TurnHead head) => head.Alone || head.WordsStart >= text.Length || !char.IsLower(text[head.WordsStart]);

    /// <summary>Whether the text uses the label as a word: in small letters, in the middle of what is said.</summary>
    private bool IsUsualWord(Label label)
    {
        var bare = SpeakerLabel.Bare(label.Spelling).ToLowerInvariant();
        var asLabel = label.Heads.Count(h => char.IsLower(h.Name![0]));
        return !bare.Contains(' ', StringComparison.Ordinal) && smallWords.Value.GetValueOrDefault(bare) > asLabel;
    }

    private bool? Choice(Label label) => choices.TryGetValue(Key(label.Spelling), out var speaks) ? speaks : null;

    /// <summary>By what labels are told apart: without case, and without what stands in brackets behind.</summary>
    public static string Key(string label) => SpeakerLabel.Bare(label).ToUpperInvariant();

    private static Dictionary<string, int> SmallWordsIn(string text)
    {
        var counts = new Dictionary<string, int>();
        foreach (var match in SmallWord().EnumerateMatches(text))
        {
            var word = text.Substring(match.Index, match.Length);
            counts[word] = counts.GetValueOrDefault(word) + 1;
        }
        return counts;
    }

    [GeneratedRegex(@"(?<![\p{L}\p{N}’'-])\p{Ll}[\p{L}\p{M}\p{N}'’-]*")]
    private static partial Regex SmallWord();

    private sealed class Label(List<TurnHead> heads)
    {
        public List<TurnHead> Heads { get; } = heads;

        public List<string> Names { get; } = [.. heads.Select(h => h.Name!).Distinct()];

        /// <summary>As it is written first, without brackets where it also stands so.</summary>
        public string Spelling => Names.Find(n => n == SpeakerLabel.Bare(n)) ?? Names[0];

        public Verdict Verdict { get; set; }
    }
}
