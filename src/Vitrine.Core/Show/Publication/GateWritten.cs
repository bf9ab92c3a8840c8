using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.RichTexts;
using Vitrine.Core.Text;

namespace Vitrine.Core.Show.Publication;

/// <summary>How what a researcher wrote leaves, and what is covered in it.</summary>
public sealed partial class Gate
{
    /// <summary>
    /// Text that a researcher wrote: without what someone has said who wants theirs kept, without masked words, without real names.
    /// </summary>
    public string Written(string text) =>
        text.Length == 0 ? "" : Redaction.Of(text, new TextRange(0, text.Length), Redaction.Merged(OverWritten(text)));

    /// <summary>
    /// The same of a text with form, over the bounds of its parts; addresses of links too. What this version does not know stays inside.
    /// </summary>
    public RichText Written(RichText text) => text.OnlyKnown().Without(t => Redaction.Merged(OverWritten(t)));

    private IEnumerable<Mask> OverWritten(string text) => [.. kept.Find(text).Select(run => new Mask(run, KeptInTeam)), .. Named(text)];

    /// <summary>Names and masked words in a text, but for those that are let stand, and what is a part of these.</summary>
    private IEnumerable<Mask> Named(string text)
    {
        var found = LooksLikeOne(text);
        if (letStand.Count == 0)
            return found;
        var stands = found.Where(m => letStand.Contains(NameMask.Context(text, m.Range))).Select(m => m.Range).ToList();
        return found.Where(m => !stands.Exists(s => s.Start <= m.Range.Start && m.Range.End <= s.End));
    }

    private List<Mask> LooksLikeOne(string text) => [.. NameMask.FindMasked(text, masked), .. NameMask.Find(text, names)];

    /// <summary>What looks like a name or a masked word in a text that a researcher wrote, let stand or not.</summary>
    public IReadOnlyList<CoveredWords> Covered(string text)
    {
        var found = LooksLikeOne(text);
        return
        [
            .. found
                .Where(m => !found.Exists(o => o.Range != m.Range && o.Range.Start <= m.Range.Start && m.Range.End <= o.Range.End))
                .DistinctBy(m => m.Range)
                .OrderBy(m => m.Range.Start)
                .Select(m => (Mask: m, Context: NameMask.Context(text, m.Range)))
                .Select(m => new CoveredWords(
                    Excerpt.Ending(text[..m.Mask.Range.Start], AroundCovered),
                    m.Mask.Range.Of(text),
                    Excerpt.Beginning(text[m.Mask.Range.End..], AroundCovered),
                    m.Mask.Replacement,
                    m.Context,
                    letStand.Contains(m.Context)
                )),
        ];
    }

    /// <summary>The same of the turns in which a passage stands, of those that leave.</summary>
    public IReadOnlyList<CoveredWords> Covered(GatePassage passage) =>
        Said(passage) is { Range: { } range } said && sources.TryGetValue(said.SourceId, out var source)
            ? [.. Parts(source, range).Where(p => Leaves(source, p.Turn)).SelectMany(p => Covered(p.Turn.Words.Of(source.Text)))]
            : [];

    private const int AroundCovered = 40;
}
