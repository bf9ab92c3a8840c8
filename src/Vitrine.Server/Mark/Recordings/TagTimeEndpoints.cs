using Vitrine.Core.Counting;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Mark.Recordings;
using Vitrine.Core.Text;
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
/// In milliseconds of sessions: what is marked in several recordings of one session, and in their words, is counted once.
/// </param>
/// <param name="EstimatedMs">
/// How much of that is known by words alone whose time is estimated: inside a caption or turn, or of a transcript without times. Clips, and
/// words from one edge of their captions to another, are exact.
/// </param>
internal sealed record TagTime(long Ms, long EstimatedMs, IReadOnlyList<TimeInSource> Sources);

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
                    var (all, exact) = (new List<(int Clock, Anchor Time)>(), new List<(int Clock, Anchor Time)>());
                    var each = new List<TimeInSource>();
                    foreach (var source in found.GroupBy(o => index.Marks.SourceOf[o]).OrderBy(s => s.Key))
                    {
                        var times = Times(index.Sources[source.Key].Id, [.. source.Select(o => index.Marks.AnchorOf[o])]);
                        if (times.Count == 0)
                            continue;
                        each.Add(new TimeInSource(index.Sources[source.Key].Id, Coverage.Of(times).Units.Milliseconds));
                        all.AddRange(times);
                    }
                    var ms = Coverage.Of(all).Units.Milliseconds;
                    return new TagTime(ms, ms - Coverage.Of(exact).Units.Milliseconds, each);

                    // Two recordings of a session film the same seconds: all is told by the session's clock.
                    List<(int, Anchor)> Times(SourceId id, IReadOnlyList<Anchor> anchors)
                    {
                        var times = anchors.OfType<TimeAnchor>().Select(a => On(id, a.Range)).ToList();
                        exact.AddRange(times);
                        var words = anchors.OfType<TextAnchor>().Select(a => a.Range).ToList();
                        if (words.Count == 0 || inStep.RecordingsOf(id) is not [var (recording, shift), ..])
                            return times;
                        var transcript = inStep.Of(id);
                        foreach (var range in words)
                        {
                            if (transcript.Words.TimeOf(range) is not { } said || SessionClock.InRecording(said, shift) is not { } heard)
                                continue;
                            times.Add(On(recording, heard));
                            if (!transcript.Estimated && transcript.Words.IsExact(range))
                                exact.Add(times[^1]);
                        }
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
