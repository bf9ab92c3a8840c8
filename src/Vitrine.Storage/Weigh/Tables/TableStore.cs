using Dapper;
using Vitrine.Core.Counting;
using Vitrine.Core.Weigh.Tables;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Weigh.Evidence;

namespace Vitrine.Storage.Weigh.Tables;

/// <summary>Two tags that occur together.</summary>
public sealed record OverlapCell(TagId TagId, TagId OtherTagId, int Pairs, double Jaccard, double Lift);

/// <summary>How a study uses a tag: counted with all tags under it, and alone.</summary>
public sealed record TagCount(TagId TagId, Breadth Breadth, Triple Own);

/// <summary>The tables of a study, as one person may see them and under conditions.</summary>
public sealed class TableStore(Workspace workspace, SeenStudies studies, NotAskedStore notAsked)
{
    /// <summary>How often each tag of the study is used. What tags are called changes seldom, this with every mark.</summary>
    public IReadOnlyList<TagCount> TagCounts(StudyId studyId, AccountId viewer, Conditions? where) =>
        TagCounts(studies.Load(studyId, viewer, where));

    public CountedTable Tags(StudyId studyId, TableColumns by, AccountId viewer, Conditions? where)
    {
        var index = studies.Load(studyId, viewer, where);
        using var connection = workspace.OpenFor(viewer);
        Dictionary<long, string> Names(string sql) =>
            connection.Query<(long, string)>(sql, new { studyId }).ToDictionary(n => n.Item1, n => n.Item2);
        IReadOnlyList<TableHead> Heads(ThingKind kind, IEnumerable<long> ids, string sql)
        {
            var names = Names(sql);
            return [.. ids.Select(id => new TableHead(kind, id, names.GetValueOrDefault(id, "")))];
        }
        var tags = Heads(ThingKind.Tag, index.Tags.Select(t => t.Value), "SELECT id, name FROM tag");
        var columns =
            by == TableColumns.Participants
                ? Heads(
                    ThingKind.Participant,
                    index.People.Select(p => p.Value),
                    "SELECT id, pseudonym FROM participant WHERE study_id = @studyId"
                )
                : Heads(ThingKind.Source, index.Sources.Select(s => s.Id.Value), "SELECT id, title FROM source WHERE study_id = @studyId");
        var rows = TagCounts(index).Zip(tags, (count, head) => new TableRow(head, count.Breadth, count.Own));
        return CountedTable.OfTags(index.Marks, by, [.. rows], columns, index.InScope.Count(s => s));
    }

    /// <summary>The pairs of tags that occur together; a pair that does not is left out.</summary>
    public IReadOnlyList<OverlapCell> Overlaps(StudyId studyId, OverlapKind kind, AccountId viewer, Conditions? where)
    {
        var index = studies.Load(studyId, viewer, where);
        var table = OverlapTable.Of(index.Marks, kind);
        return
        [
            .. from a in Enumerable.Range(0, index.Tags.Length)
            from b in Enumerable.Range(a + 1, index.Tags.Length - a - 1)
            let overlap = table[a, b]
            where overlap.Pairs > 0
            select new OverlapCell(index.Tags[a], index.Tags[b], overlap.Pairs, overlap.Jaccard, overlap.Lift),
        ];
    }

    private IReadOnlyList<TagCount> TagCounts(StudyIndex index)
    {
        var byTag = Tally.ByTag(index.Marks, rollUp: true);
        var own = Tally.OfEach(index.Marks, Tally.ByTag(index.Marks, rollUp: false));
        var silent = notAsked.In(index.StudyId, AskedThing.Tag);
        return
        [
            .. index.Tags.Select(
                (id, place) =>
                    new TagCount(
                        id,
                        Breadth.Of(index.Marks, byTag[place], index.InScopeFor(place), index.PlacesOfPeople(silent[id.Value])),
                        own[place]
                    )
            ),
        ];
    }
}
