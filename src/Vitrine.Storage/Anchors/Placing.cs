using System.Globalization;
using Dapper;
using Vitrine.Core.Gather.Corrections;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Anchors;

/// <summary>Places in sources as requests give them and as sentences name them.</summary>
internal static class Placing
{
    /// <summary>The place that a request gives, when its source has such a place.</summary>
    /// <exception cref="Refusal">It has not.</exception>
    public static Anchor Fitting(AnchorGiven given, AnchorGround ground)
    {
        var (anchor, problem) = given.In(ground);
        return anchor
            ?? throw Refusal.Because(
                RefusalSentences.Of(problem!.Value),
                given.Kind switch
                {
                    AnchorKind.Text => "start",
                    AnchorKind.Time => "beginMs",
                    _ => "x",
                }
            );
    }

    /// <summary>
    /// A place that was chosen on a text which was corrected since, on the text as it is now: words that stayed are where they went.
    /// </summary>
    /// <param name="basedOn">The hash of the text on which it was chosen; null for the text as it is.</param>
    /// <exception cref="Refusal">The words were changed or taken out, or the text is not known.</exception>
    public static AnchorGiven Following(Writing writing, SourceId sourceId, AnchorGiven given, string? basedOn)
    {
        var connection = writing.Connection;
        if (basedOn is null || given is not { Kind: AnchorKind.Text, Start: { } start, End: { } end })
            return given;
        var (id, now) = connection.QuerySingle<(long, string)>(
            "SELECT id, text FROM source_text WHERE source_id = @sourceId",
            new { sourceId }
        );
        if (ContentHash.Of(now) == basedOn)
            return given;
        var before = connection
            .Query<string>(
                """
                SELECT json_extract(before, '$.text') FROM change WHERE table_name = 'source_text' AND row_id = @id
                AND before IS NOT NULL AND after IS NOT NULL ORDER BY id DESC
                """,
                new { id },
                buffered: false
            )
            .FirstOrDefault(text => ContentHash.Of(text) == basedOn);
        if (before is not null && start >= 0 && end > start && end <= before.Length)
        {
            var moved = Reanchor.Between(before, now).Of(new TextRange(start, end));
            if (moved.Fate == AnchorFate.Same)
                return given with { Start = moved.Range.Start, End = moved.Range.End };
        }
        throw new Refusal(
            RefusalKind.Conflict,
            "These words were corrected in the meantime. Look at them as they are now, and select them again. "
                + TrailStore.LastChange(connection, writing.Actor.AccountId, "source", sourceId.Value),
            "start"
        );
    }

    /// <summary>What is said of a place in the trail.</summary>
    public static string InWords(Anchor anchor, AnchorGround ground) =>
        anchor switch
        {
            TextAnchor text => $"“{Excerpt.Beginning(text.Range.Of(ground.Text))}”",
            TimeAnchor time => $"{Clock(time.BeginMs)} to {Clock(time.EndMs)}",
            RegionAnchor { AtMs: { } at } => $"a part of the picture at {Clock(at)}",
            _ => "a part of the picture",
        };

    private static string Clock(int ms) =>
        TimeSpan.FromMilliseconds(ms).ToString(ms < 3_600_000 ? @"m\:ss" : @"h\:mm\:ss", CultureInfo.InvariantCulture);
}
