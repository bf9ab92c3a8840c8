using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.RichTexts;
using Vitrine.Core.Show.Publication;
using Vitrine.Core.Weigh.Evidence;
using Vitrine.Server.Access;
using Vitrine.Server.Counting;
using Vitrine.Server.Media;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Mark.Recordings;
using Vitrine.Storage.Media;
using Vitrine.Storage.Show.Publication;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Show.Publication;

/// <summary>One person's cell in a published people strip; no id, no code.</summary>
internal sealed record ReaderCell(string Name, int Supporting, int Contradicting, bool Asked);

/// <summary>What a reader can see or hear beside a quote.</summary>
internal enum ReaderCutout
{
    /// <summary>A part of a picture.</summary>
    Picture,

    /// <summary>A stretch of a film.</summary>
    Film,

    /// <summary>A stretch of a sound.</summary>
    Sound,
}

/// <param name="Cutout">What can be seen or heard of it; null for words alone.</param>
internal sealed record ReaderQuote(string Key, string Words, string Who, SourceKind Kind, Stance Stance, ReaderCutout? Cutout);

/// <summary>A part of a story: words, or a quote that stands between them.</summary>
/// <param name="Text">Words; null for a quote.</param>
/// <param name="Quote">A quote; null for words. It is for and against nothing by standing here.</param>
/// <param name="Caption">What stands under the quote.</param>
internal sealed record StoryPart(RichText? Text, ReaderQuote? Quote, string Caption);

internal sealed record ReaderInsight(
    string Headline,
    IReadOnlyList<StoryPart> Story,
    EvidenceFacts Facts,
    int OutOf,
    DateOnly? NewestEvidence,
    IReadOnlyList<ReaderCell> People,
    IReadOnlyList<ReaderQuote> Quotes
);

/// <summary>A published page: only what may leave the team.</summary>
internal sealed record ReaderPage(string Question, string Summary, DateTimeOffset UpdatedAt, IReadOnlyList<ReaderInsight> Insights);

internal sealed record ReaderContext(string Who, SourceKind Kind, IReadOnlyList<ShownTurn> Turns);

/// <summary>
/// The reader's side of an exhibit: opened by its secret token, without an account, read-only; every word passes the <see cref="Gate"/>.
/// </summary>
internal static class ReadEndpoints
{
    private const int TurnsAround = 2;

    public static void MapReading(this WebApplication app)
    {
        var read = app.MapGroup("/api/read/{token}").WithTags("Read").RequireRateLimiting(AccessEndpoints.Readers);
        read.MapGet(
            "",
            (string token, PublicationStore store, SourceStore sources) =>
            {
                var published = Opened(store, token);
                var (exhibit, gate) = (published.Exhibit, published.Gate);
                return new ReaderPage(
                    gate.Written(exhibit.Question),
                    gate.Written(exhibit.Summary),
                    exhibit.UpdatedAt,
                    [.. published.Insights.Select(i => Of(i, gate, sources))]
                );
            }
        );
        read.MapGet("/cutout/{evidenceKey}", Cutout).Produces(StatusCodes.Status200OK, contentType: "application/octet-stream");
        read.MapGet(
            "/context/{evidenceKey}",
            (string token, string evidenceKey, PublicationStore store) =>
            {
                var published = Opened(store, token);
                var evidence =
                    published.Insights.SelectMany(i => Shown(i, published.Gate)).FirstOrDefault(e => e.Key == evidenceKey)
                    ?? throw Refusal.Missing("quote");
                return new ReaderContext(
                    published.Gate.Who(evidence.Passage),
                    evidence.Kind,
                    published.Gate.Around(evidence.Passage, TurnsAround)
                );
            }
        );
    }

    /// <summary>
    /// What can be seen or heard beside a quote: a file that holds that part alone, protected as its recording is. It is cut anew from what
    /// the gate lets out at this moment.
    /// </summary>
    private static async Task<IResult> Cutout(
        string token,
        string evidenceKey,
        HttpResponse response,
        PublicationStore store,
        SourceStore sources,
        RecordingStore recordings,
        ProtectionStore protections,
        Cutouts cutouts,
        CancellationToken cancel
    )
    {
        var published = Opened(store, token);
        var told = published.Insights.SelectMany(i => Shown(i, published.Gate)).FirstOrDefault(e => e.Key == evidenceKey);
        if (told is null || !Ffmpeg.IsThere)
            throw Refusal.Missing("clip");
        // A link that is revoked plays nothing from a cache.
        response.Headers.CacheControl = "no-store";
        try
        {
            if (told.Passage.Anchor is RegionAnchor part)
            {
                var picture = sources.MediaOf(told.Passage.SourceId) ?? throw Refusal.Missing("picture");
                var film = recordings.Find(picture.Hash) is not null;
                return Results.Bytes(
                    await cutouts.Part(picture.Hash, part, film, protections.Of(told.Passage.SourceId), cancel),
                    "image/png"
                );
            }
            var clip = published.Gate.Clip(told.Passage) ?? throw Refusal.Missing("clip");
            var file = sources.MediaOf(clip.RecordingId) ?? throw Refusal.Missing("clip");
            var known = recordings.Find(file.Hash) ?? throw Refusal.Missing("clip");
            var wanted = CutoutOf.Leaving(clip, known, protections.Of(clip.RecordingId));
            var cut = await cutouts.Clip(file.Hash, wanted, cancel);
            return Results.File(cut, Cutouts.TypeOf(wanted.Format, wanted.Films), enableRangeProcessing: true);
        }
        catch (UnplayableException)
        {
            throw Refusal.Missing("clip");
        }
    }

    /// <summary>What a reader can see or hear of a quote.</summary>
    private static ReaderCutout? SeenOf(GatePassage passage, Gate gate, SourceStore sources)
    {
        if (passage.Anchor is RegionAnchor)
            return ReaderCutout.Picture;
        return gate.Clip(passage) is not { } clip ? null
            : sources.MediaOf(clip.RecordingId)?.Type.StartsWith("video/", StringComparison.Ordinal) == true ? ReaderCutout.Film
            : ReaderCutout.Sound;
    }

    /// <summary>What a reader is told: the words for and against that leave; context stays with the team.</summary>
    public static IEnumerable<PublishedEvidence> Told(PublishedInsight insight, Gate gate) =>
        insight.Evidence.Where(e => e.Stance != Stance.Context && gate.Shows(e.Passage));

    /// <summary>What of an insight is given to readers as far as the gate lets it: evidence for and against, and what its story
    /// quotes.</summary>
    public static IEnumerable<PublishedEvidence> Given(PublishedInsight insight) =>
        insight.Evidence.Where(e => e.Stance != Stance.Context).Concat(insight.Quoted);

    private static IEnumerable<PublishedEvidence> Shown(PublishedInsight insight, Gate gate) =>
        Given(insight).Where(e => gate.Shows(e.Passage));

    private static Published Opened(PublicationStore store, string token) =>
        store.Open(token)
        ?? throw new Refusal(RefusalKind.NotFound, "This link does not open anything any more. Ask the person who sent it for a new one.");

    private static ReaderInsight Of(PublishedInsight published, Gate gate, SourceStore sources)
    {
        var study = published.Study;
        var counted = published.Evidence.Where(e => gate.Counts(e.Passage)).ToList();
        var gone = published.People.Where(p => p.Consent == Consent.Withdrawn).Select(p => p.Id).ToHashSet();
        var inScope = study.InScope.Select((there, i) => there && !gone.Contains(study.People[i])).ToList();
        var (facts, breadth) = Weighing.Of(
            study,
            [.. counted.Select(e => (e.Stance, study.PlaceOfObservation(e.ObservationId)!.Value))],
            inScope,
            published.NotAsked
        );
        var cells = published
            .People.Select(
                (p, i) => (Person: p, Cell: new ReaderCell(gate.NameOf(p.Id), breadth.Strip[i], breadth.Against[i], breadth.Asked[i]))
            )
            .Where(c => !gone.Contains(c.Person.Id))
            .Select(c => c.Cell);
        var quotes = Told(published, gate).Select(e => QuoteOf(e, gate, sources));
        var newest = counted.Where(e => e.Stance == Stance.Supports).Select(e => e.HeldOn).Max();
        return new ReaderInsight(
            gate.Written(published.Insight.Headline),
            StoryOf(published, gate, sources),
            facts,
            breadth.OutOf,
            newest,
            [.. cells],
            [.. quotes]
        );
    }

    private static ReaderQuote QuoteOf(PublishedEvidence e, Gate gate, SourceStore sources) =>
        new(e.Key, gate.Words(e.Passage), gate.Who(e.Passage), e.Kind, e.Stance, SeenOf(e.Passage, gate, sources));

    /// <summary>A story without a number of the team's: what it speaks of stands there by its title, what it quotes by its key.</summary>
    private static IReadOnlyList<StoryPart> StoryOf(PublishedInsight published, Gate gate, SourceStore sources)
    {
        var quoted = published
            .Quoted.Where(q => gate.Shows(q.Passage))
            .ToDictionary(q => new ThingRef(ThingKind.Observation, q.ObservationId.Value));
        var (parts, words) = (new List<StoryPart>(), new List<RichBlock>());
        foreach (var block in gate.Written(published.Insight.Story).Blocks)
        {
            if (block is not Embedded embedded)
            {
                words.Add(block);
                continue;
            }
            if (!quoted.TryGetValue(embedded.Thing, out var quote))
                continue;
            TakeWords();
            parts.Add(new StoryPart(null, QuoteOf(quote, gate, sources), embedded.Caption));
        }
        TakeWords();
        return parts;

        void TakeWords()
        {
            if (words.Count > 0)
                parts.Add(new StoryPart(new RichText([.. words]).WithoutReferences(), null, ""));
            words.Clear();
        }
    }
}
