using Vitrine.Core.Counting;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Mark.Recordings;
using Vitrine.Server.Access;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Media;
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
                (StudyId studyId, TagId tagId, SignedIn me, SeenStudies indexes, SourceStore sources, TranscriptsInStep inStep) =>
                {
                    var index = indexes.Load(studyId, me.Id);
                    var place = index.PlaceOfTag(tagId) ?? throw Refusal.Missing(Thing.Tag);
                    var found = Tally.ByTag(index.Marks, rollUp: true)[place];
                    var clocks = sources.ClocksIn(studyId);
                    var all = new List<(int Clock, Anchor Time)>();
                    var each = new List<TimeInSource>();
                    foreach (var source in found.GroupBy(o => index.Marks.SourceOf[o]).OrderBy(s => s.Key))
                    {
                        var times = Times(index.Sources[source.Key].Id, [.. source.Select(o => index.Marks.AnchorOf[o])]);
                        if (times.Count == 0)
                            continue;
                        each.Add(new TimeInSource(index.Sources[source.Key].Id, Coverage.Of(times).Units.Milliseconds));
                        all.AddRange(times);
                    }
                    return new TagTime(Coverage.Of(all).Units.Milliseconds, each);

                    // Two recordings of a session film the same seconds: all is told by the session's clock.
                    List<(int, Anchor)> Times(SourceId id, IReadOnlyList<Anchor> anchors)
                    {
                        var times = anchors.OfType<TimeAnchor>().Select(a => On(id, new TimeRange(a.BeginMs, a.EndMs))).ToList();
                        var words = anchors.OfType<TextAnchor>().Select(a => a.Range).ToList();
                        if (words.Count == 0 || inStep.RecordingsOf(id) is not [var (recording, shift), ..])
                            return times;
                        var spoken = inStep.Of(id).Words;
                        times.AddRange(
                            words
                                .Select(spoken.TimeOf)
                                .OfType<TimeRange>()
                                .Select(t => SessionClock.InRecording(t, shift))
                                .OfType<TimeRange>()
                                .Select(t => On(recording, t))
                        );
                        return times;
                    }

                    (int, Anchor) On(SourceId recording, TimeRange time)
                    {
                        var (clock, offset) = clocks[recording];
                        // No offset is longer than a day: nothing begins before it.
                        const int day = 86_400_000;
                        return (clock, new TimeAnchor(time.BeginMs + offset + day, time.EndMs + offset + day));
                    }
                }
            )
            .WithTags("Mark");
}
