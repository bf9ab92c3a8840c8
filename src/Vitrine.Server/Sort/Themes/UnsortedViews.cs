using Vitrine.Core.Counting;
using Vitrine.Core.Mark.Observations;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Sort.Themes;
using Vitrine.Storage.Weigh.Evidence;

namespace Vitrine.Server.Sort.Themes;

/// <summary>What of what is unsorted stands together.</summary>
internal enum UnsortedBy
{
    Person,
    Source,

    /// <summary>By the first of its tags, in the order of the tag set.</summary>
    Tag,
    Sentiment,

    /// <summary>One after the other, what was marked last first.</summary>
    Nothing,
}

/// <summary>Some of what is unsorted that stands together: of one person, source, tag or sentiment; of none where all are null.</summary>
/// <param name="Observations">How many there are, one after the other.</param>
internal sealed record UnsortedGroup(
    ParticipantId? ParticipantId,
    SourceId? SourceId,
    TagId? TagId,
    Sentiment? Sentiment,
    int Observations
);

/// <summary>A page of what is unsorted.</summary>
/// <param name="Total">How many there are on all pages.</param>
/// <param name="Groups">All groups, in the order in which they come on all pages; none where they stand one after the other.</param>
/// <param name="NewIds">Which of this page were marked since one's last look.</param>
internal sealed record UnsortedPage(
    IReadOnlyList<Quote> Quotes,
    int Total,
    IReadOnlyList<UnsortedGroup> Groups,
    IReadOnlyList<ObservationId> NewIds
);

/// <summary>What lies in no theme.</summary>
/// <param name="Where">Conditions that it meets.</param>
/// <param name="LeftOut">That which was left out on purpose, instead of that which nobody has decided about.</param>
/// <param name="Words">Only what holds these words; empty for all.</param>
internal sealed record UnsortedAsked(Conditions? Where, bool LeftOut, string Words, UnsortedBy By);

/// <summary>Shows what lies in no theme, in groups and in pages.</summary>
internal sealed class UnsortedViews(ThemeStore themes, SeenStudies indexes, QuoteStore quotes, LeftOutStore leftOut, SortingLookStore looks)
{
    /// <param name="page">Which page, from 0.</param>
    /// <param name="size">How many a page holds.</param>
    public UnsortedPage Page(StudyId studyId, AccountId viewer, UnsortedAsked asked, int page, int size)
    {
        var (index, places, groups) = Found(studyId, viewer, asked);
        var shown = quotes.Page(index, places, page, size);
        var marked = looks.Since(studyId, viewer).Marked;
        return new UnsortedPage(shown.Quotes, shown.Total, groups, [.. shown.Quotes.Select(q => q.ObservationId).Where(marked.Contains)]);
    }

    /// <summary>All of it by its ids, in the same order.</summary>
    public IReadOnlyList<ObservationId> Ids(StudyId studyId, AccountId viewer, UnsortedAsked asked)
    {
        var (index, places, _) = Found(studyId, viewer, asked);
        return [.. places.Select(p => index.Observations[p])];
    }

    private (StudyIndex Index, IReadOnlyList<int> Places, IReadOnlyList<UnsortedGroup> Groups) Found(
        StudyId studyId,
        AccountId viewer,
        UnsortedAsked asked
    )
    {
        var index = indexes.Load(studyId, viewer, asked.Where);
        var inNone = index.InNone(index.ContentsOf(themes.In(studyId, viewer)), leftOut.In(studyId, viewer), asked.LeftOut);
        var places = quotes.Holding(index, inNone, asked.Words);
        if (asked.By == UnsortedBy.Nothing)
            return (index, [.. places.OrderByDescending(p => index.Observations[p].Value)], []);
        var felt = asked.By == UnsortedBy.Sentiment ? themes.Sentiments(studyId, viewer) : null;
        var groups = places.GroupBy(KeyOf).OrderBy(g => g.Key ?? int.MaxValue).ToList();
        return (index, [.. groups.SelectMany(g => g)], [.. groups.Select(g => GroupOf(g.Key, g.Count()))]);

        int? KeyOf(int o) =>
            asked.By switch
            {
                UnsortedBy.Person => index.Marks.PersonOf[o],
                UnsortedBy.Source => index.Marks.SourceOf[o],
                UnsortedBy.Tag => index.Marks.TagsOn(o) is { Length: > 0 } tags ? tags.ToArray().Min() : null,
                _ => felt!.TryGetValue(index.Observations[o], out var sentiment) ? (int)sentiment : null,
            };

        UnsortedGroup GroupOf(int? key, int count) =>
            new(
                asked.By == UnsortedBy.Person && key is { } person ? index.People[person] : null,
                asked.By == UnsortedBy.Source && key is { } source ? index.Sources[source].Id : null,
                asked.By == UnsortedBy.Tag && key is { } tag ? index.Tags[tag] : null,
                asked.By == UnsortedBy.Sentiment && key is { } sentiment ? (Sentiment)sentiment : null,
                count
            );
    }
}
