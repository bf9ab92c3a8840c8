using Vitrine.Core.Text;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Mark.Reading;

namespace Vitrine.Server.Mark.Reading;

internal sealed record Reached(int Furthest);

/// <param name="TagId">The tag that the pen marks with; null for none.</param>
internal sealed record PenTag(TagId? TagId);

/// <summary>Where the sentences of a source's turns are, in text order.</summary>
/// <param name="Sentences">Sentences; no turn shares one with another.</param>
/// <param name="Clauses">Clauses; each lies in one sentence.</param>
internal sealed record SourceSentences(IReadOnlyList<TextRange> Sentences, IReadOnlyList<TextRange> Clauses);

/// <summary>A sentence of the gist of a source.</summary>
/// <param name="Start">Where it begins, in UTF-16 units of the source's text.</param>
/// <param name="End">One past its end.</param>
/// <param name="Words">The sentence.</param>
/// <param name="SpeakerId">Who says it; null where the text does not tell.</param>
/// <param name="Ties">Its words that most of the others have too.</param>
internal sealed record GistShown(int Start, int End, string Words, SpeakerId? SpeakerId, IReadOnlyList<string> Ties);

internal static class ReadingEndpoints
{
    public static void MapReading(this RouteGroupBuilder api)
    {
        var source = api.MapGroup("/sources/{id:long}").WithTags("Mark").About(Thing.Source);
        source.MapPut(
            "/reading",
            (SourceId id, Reached given, SignedIn me, ReadingStore store) =>
            {
                store.Reach(me.Id, id, given.Furthest);
                return TypedResults.NoContent();
            }
        );
        var pens = api.MapGroup("/studies/{studyId:long}/pens").WithTags("Mark");
        pens.MapGet("", (StudyId studyId, SignedIn me, PenStore store) => store.Of(me.Id, studyId));
        pens.MapPut(
            "/{number:int}",
            (StudyId studyId, int number, PenTag given, SignedIn me, PenStore store) => store.Set(me.Id, studyId, number, given.TagId)
        );
        source.MapGet(
            "/hits",
            (SourceId id, string typed, bool byStem, SignedIn me, SourceStore sources) =>
                TextHits.Of(sources.Get(id, me.Id).Text, Validate.Optional(typed, "typed"), byStem)
        );
        source.MapGet(
            "/lines",
            (SourceId id, SignedIn me, SourceStore sources) =>
            {
                var read = sources.Get(id, me.Id);
                return NumberedLines.Starts(read.Text, read.Turns.Select(t => new TextRange(t.Start, t.End)));
            }
        );
        source.MapGet(
            "/gist",
            (SourceId id, SignedIn me, SourceStore sources) =>
            {
                var read = sources.Get(id, me.Id);
                var team = read.Line.Speakers.Where(s => s.IsTeam).Select(s => s.Id).ToHashSet();
                var turns = read.Turns.Select(t => new TurnOf(
                    new TextRange(t.Start, t.End),
                    t.SpeakerId is { } speaker && team.Contains(speaker),
                    null
                ));
                return Gist.Of(read.Text, [.. turns])
                    .Select(g => new GistShown(g.Range.Start, g.Range.End, g.Range.Of(read.Text), read.Turns[g.Turn].SpeakerId, g.Ties));
            }
        );
        source.MapGet(
            "/sentences",
            (SourceId id, SignedIn me, SourceStore sources) =>
            {
                var read = sources.Get(id, me.Id);
                var sentences = read
                    .Turns.Where(t => t.End > t.Start)
                    .SelectMany(t => Sentences.In(read.Text, new TextRange(t.Start, t.End)))
                    .ToList();
                return new SourceSentences(sentences, [.. sentences.SelectMany(s => Clauses.In(read.Text, s))]);
            }
        );
    }
}
