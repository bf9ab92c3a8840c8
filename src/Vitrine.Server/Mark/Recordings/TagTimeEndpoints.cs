using Vitrine.Core.Counting;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Mark.Recordings;
using Vitrine.Server.Access;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Mark.Recordings;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Mark.Recordings;

/// <param name="SourceId">A recording with clips, or a transcript with marks.</param>
/// <param name="Ms">How long its clips are, or its words are spoken, in milliseconds, each counted once.</param>
internal sealed record TimeInSource(SourceId SourceId, long Ms);

/// <summary>How much of recordings a tag covers: by clips, and by words of transcripts that run with a recording.</summary>
/// <param name="Ms">
/// In milliseconds; what is marked in a recording and in its words is counted once. Within a caption or turn the times of words are
/// estimated.
/// </param>
internal sealed record TagTime(long Ms, IReadOnlyList<TimeInSource> Sources);

internal static class TagTimeEndpoints
{
    public static void MapTagTime(this RouteGroupBuilder api) =>
        api.MapGet(
                "/studies/{studyId:long}/tags/{tagId:long}/time",
                (
                    StudyId studyId,
                    TagId tagId,
                    SignedIn me,
                    SeenStudies indexes,
                    RecordingStore recordings,
                    SourceStore sources,
                    InStepReading inStep
                ) =>
                {
                    var index = indexes.Load(studyId, me.Id);
                    var place = index.PlaceOfTag(tagId) ?? throw Refusal.Missing(Thing.Tag);
                    var found = Tally.ByTag(index.Marks, rollUp: true)[place];
                    var placeOf = index.Sources.Select((s, i) => (s.Id, i)).ToDictionary(s => s.Id, s => s.i);
                    var all = new List<(int Recording, Anchor Time)>();
                    var each = new List<TimeInSource>();
                    foreach (var source in found.GroupBy(o => index.Marks.SourceOf[o]).OrderBy(s => s.Key))
                    {
                        var times = Times(index.Sources[source.Key].Id, source.Key, [.. source.Select(o => index.Marks.AnchorOf[o])]);
                        if (times.Count == 0)
                            continue;
                        each.Add(new TimeInSource(index.Sources[source.Key].Id, Coverage.Of(times).Units.Milliseconds));
                        all.AddRange(times);
                    }
                    return new TagTime(Coverage.Of(all).Units.Milliseconds, each);

                    List<(int, Anchor)> Times(SourceId id, int at, IReadOnlyList<Anchor> anchors)
                    {
                        var clips = anchors.OfType<TimeAnchor>().Select(a => (at, (Anchor)a));
                        var words = anchors.OfType<TextAnchor>().Select(a => a.Range).ToList();
                        if (
                            words.Count == 0
                            || recordings.InStepWith(id) is not { } recording
                            || !placeOf.TryGetValue(recording, out var to)
                        )
                            return [.. clips];
                        var read = sources.Get(id, me.Id);
                        var spoken = inStep.Of(read).Words;
                        var moved = read.Line.OffsetMs;
                        return
                        [
                            .. clips,
                            .. words
                                .Select(spoken.TimeOf)
                                .OfType<TimeRange>()
                                .Where(t => t.EndMs + moved > 0 && t.EndMs > t.BeginMs)
                                .Select(t => (to, (Anchor)new TimeAnchor(Math.Max(0, t.BeginMs + moved), t.EndMs + moved))),
                        ];
                    }
                }
            )
            .WithTags("Mark");
}
