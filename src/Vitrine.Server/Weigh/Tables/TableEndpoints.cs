using Vitrine.Core.Counting;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Weigh.Evidence;

namespace Vitrine.Server.Weigh.Tables;

internal enum TableColumns
{
    Sources,
    Participants,
}

/// <summary>One tag's row: its breadth over all columns, its own count without tags under it, and a triple per column.</summary>
internal sealed record TableRow(TagId TagId, Breadth Breadth, Triple Own, IReadOnlyList<Triple> Cells);

/// <summary>Tags against sources or participants.</summary>
/// <param name="Columns">Ids of sources or participants.</param>
/// <param name="Rows">Row by row.</param>
/// <param name="InScope">How many people count as asked.</param>
/// <param name="NotReviewed">How many of the observations a search has found and nobody has looked at.</param>
internal sealed record TagTable(IReadOnlyList<long> Columns, IReadOnlyList<TableRow> Rows, int InScope, int NotReviewed);

internal sealed record OverlapCell(TagId TagId, TagId OtherTagId, int Pairs, double Jaccard, double Lift);

/// <summary>How a study uses a tag: counted with all tags under it, and alone.</summary>
internal sealed record TagCount(TagId TagId, Breadth Breadth, Triple Own);

internal static class TableEndpoints
{
    public static void MapTables(this RouteGroupBuilder api)
    {
        var study = api.MapGroup("/studies/{studyId:long}").WithTags("Weigh");
        // What tags are called changes seldom, how often they are used with every mark.
        study.MapGet(
            "/tag-counts",
            (StudyId studyId, Conditions? where, SignedIn me, SeenStudies indexes, NotAskedStore notAsked) =>
            {
                var index = indexes.Load(studyId, me.Id, where);
                var byTag = Tally.ByTag(index.Marks, rollUp: true);
                var own = Tally.OfEach(index.Marks, Tally.ByTag(index.Marks, rollUp: false));
                var silent = notAsked.In(studyId, AskedThing.Tag);
                return index
                    .Tags.Select(
                        (id, place) =>
                            new TagCount(
                                id,
                                Breadth.Of(index.Marks, byTag[place], index.InScopeFor(place), index.PlacesOfPeople(silent[id])),
                                own[place]
                            )
                    )
                    .ToList();
            }
        );
        study.MapGet(
            "/table",
            (StudyId studyId, string columns, Conditions? where, SignedIn me, SeenStudies indexes, NotAskedStore notAsked) =>
            {
                var index = indexes.Load(studyId, me.Id, where);
                var byPerson = Validate.Choice<TableColumns>(columns, nameof(columns)) == TableColumns.Participants;
                var table = CrossTab.Of(index.Marks, byPerson, rollUp: true);
                var byTag = Tally.ByTag(index.Marks, rollUp: true);
                var own = Tally.OfEach(index.Marks, Tally.ByTag(index.Marks, rollUp: false));
                var silent = notAsked.In(studyId, AskedThing.Tag);
                var rows = index.Tags.Select(
                    (id, tag) =>
                        new TableRow(
                            id,
                            Breadth.Of(index.Marks, byTag[tag], index.InScopeFor(tag), index.PlacesOfPeople(silent[id])),
                            own[tag],
                            table.Cells[tag]
                        )
                );
                return new TagTable(
                    byPerson ? [.. index.People.Select(p => p.Value)] : [.. index.Sources.Select(s => s.Id.Value)],
                    [.. rows],
                    index.InScope.Count(s => s),
                    index.Marks.CountNotReviewed(Enumerable.Range(0, index.Marks.Count))
                );
            }
        );
        study.MapGet(
            "/overlaps",
            (StudyId studyId, string kind, Conditions? where, SignedIn me, SeenStudies indexes) =>
            {
                var index = indexes.Load(studyId, me.Id, where);
                var table = OverlapTable.Of(index.Marks, Validate.Choice<OverlapKind>(kind, nameof(kind)));
                return (
                    from a in Enumerable.Range(0, index.Tags.Length)
                    from b in Enumerable.Range(a + 1, index.Tags.Length - a - 1)
                    let overlap = table[a, b]
                    where overlap.Pairs > 0
                    select new OverlapCell(index.Tags[a], index.Tags[b], overlap.Pairs, overlap.Jaccard, overlap.Lift)
                ).ToList();
            }
        );
    }
}
