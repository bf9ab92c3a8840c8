using Vitrine.Core.Evidence;
using Vitrine.Core.Gather;
using Vitrine.Core.Privacy;
using Vitrine.Core.Text;
using Vitrine.Storage;
using Vitrine.Storage.Gather;
using Vitrine.Storage.Show;

namespace Vitrine.Server.Show;

/// <summary>One person's cell in a published people strip; no id, no code.</summary>
internal sealed record ReaderCell(string Name, int Supporting, int Contradicting, bool Asked);

internal sealed record ReaderQuote(string Key, string Words, string Who, SourceKind Kind, Stance Stance);

internal sealed record ReaderInsight(string Headline, string Story, EvidenceFacts Facts, int OutOf, string? NewestEvidence, IReadOnlyList<ReaderCell> People, IReadOnlyList<ReaderQuote> Quotes);

/// <summary>A published page: only what may leave the team.</summary>
internal sealed record ReaderPage(string Question, string Summary, string UpdatedAt, IReadOnlyList<ReaderInsight> Insights);

/// <summary>A turn beside a quote. In the quoted turns, <paramref name="QuoteStart"/> and <paramref name="QuoteEnd"/> (UTF-16 units of <paramref name="Words"/>) bound the quoted words.</summary>
internal sealed record ReaderTurn(string Who, bool Team, string Words, int? AtMs, int? QuoteStart, int? QuoteEnd);

internal sealed record ReaderContext(string Who, SourceKind Kind, IReadOnlyList<ReaderTurn> Turns);

/// <summary>The reader's side of an exhibit: opened by its secret token, without an account, read-only, with real names masked.</summary>
internal static class ReadEndpoints
{
    private const int TurnsAround = 2;
    private const string KeptInTeam = "(These words stay with the team.)";

    public static void MapReading(this WebApplication app)
    {
        var read = app.MapGroup("/api/read/{token}").WithTags("Read");
        read.MapGet("", (string token, ExhibitStore exhibits, InsightStore insights, InsightPages pages, ParticipantStore participants) =>
        {
            var exhibit = exhibits.Get(Opened(exhibits, token));
            var named = participants.Named();
            var shown = pages.Of([.. exhibits.InsightsOf(exhibit.Id).Select(insights.Get)]);
            return new ReaderPage(NameMask.Apply(exhibit.Question, named), NameMask.Apply(exhibit.Summary, named), exhibit.UpdatedAt, [.. shown.Select(p => Masked(p, participants.In(p.Insight.StudyId), named))]);
        });
        read.MapGet("/context/{evidenceKey}", (string token, string evidenceKey, ExhibitStore exhibits, InsightStore insights, InsightPages pages, ParticipantStore participants, SourceStore sources) =>
        {
            var shown = pages.Of([.. exhibits.InsightsOf(Opened(exhibits, token)).Select(insights.Get)]);
            var evidence = shown.SelectMany(p => Told(p, participants.In(p.Insight.StudyId)).Select(e => (p.Insight.StudyId, Evidence: e))).FirstOrDefault(x => x.Evidence.Key == evidenceKey);
            if (evidence.Evidence is null) throw Refusal.Missing("quote");
            return ContextOf(evidence.Evidence, sources.Get(evidence.Evidence.Quote.SourceId, 0), participants.In(evidence.StudyId), participants.Named());
        });
    }

    private static long Opened(ExhibitStore exhibits, string token) =>
        exhibits.Opened(token) ?? throw new Refusal(RefusalKind.NotFound, "This link does not open anything any more. Ask the person who sent it for a new one.");

    /// <summary>What a reader is told: the words for and against, as far as consent allows; context stays with the team.</summary>
    private static IEnumerable<EvidenceQuote> Told(InsightPage page, Participants people) => page.Evidence.Where(e => e.Stance != Stance.Context && MayLeave(e.Quote.ParticipantId, people));

    private static bool MayLeave(long? participantId, Participants people) => people.People.FirstOrDefault(p => p.Id == participantId) is not { } person || ConsentRule.WordsMayLeave(person.Consent);

    private static ReaderInsight Masked(InsightPage page, Participants people, IReadOnlyList<NamedPerson> named)
    {
        var cells = people.People.Select((p, i) => new ReaderCell(p.Pseudonym, page.Breadth.Strip[i], page.Breadth.Against[i], page.Breadth.Asked[i])).ToList();
        var quotes = Told(page, people).Select(e => new ReaderQuote(e.Key, NameMask.Apply(e.Quote.Words, named), NameOf(e.Quote.ParticipantId, people), e.Quote.Kind, e.Stance)).ToList();
        return new ReaderInsight(NameMask.Apply(page.Insight.Headline, named), NameMask.Apply(page.Insight.Story, named), page.Facts, page.Breadth.OutOf, page.NewestEvidence, cells, quotes);
    }

    private static ReaderContext ContextOf(EvidenceQuote evidence, Source source, Participants people, IReadOnlyList<NamedPerson> named)
    {
        var quote = new TextRange(evidence.Quote.Start, evidence.Quote.End);
        var turns = source.Turns.ToList();
        var first = Math.Max(0, turns.FindIndex(t => t.End > quote.Start) - TurnsAround);
        var last = turns.FindLastIndex(t => t.Start < quote.End) + TurnsAround;
        var shown = turns.Skip(first).Take(last - first + 1).Select(t =>
        {
            var speaker = source.Line.Speakers.FirstOrDefault(s => s.Id == t.SpeakerId);
            var who = speaker is null || (!speaker.IsTeam && speaker.ParticipantId is null) ? "" : speaker.IsTeam ? "Researcher" : NameOf(speaker.ParticipantId, people);
            if (!MayLeave(speaker?.ParticipantId, people)) return new ReaderTurn(who, false, KeptInTeam, t.BeginMs + source.Line.OffsetMs, null, null);
            var (from, to) = (Math.Max(t.Start, quote.Start), Math.Min(t.End, quote.End));
            if (from >= to) return new ReaderTurn(who, speaker?.IsTeam ?? false, Mask(source.Text[t.Start..t.End]), t.BeginMs + source.Line.OffsetMs, null, null);
            var (before, inside, after) = (Mask(source.Text[t.Start..from]), Mask(source.Text[from..to]), Mask(source.Text[to..t.End]));
            return new ReaderTurn(who, speaker?.IsTeam ?? false, before + inside + after, t.BeginMs + source.Line.OffsetMs, before.Length, before.Length + inside.Length);
        });
        return new ReaderContext(NameOf(evidence.Quote.ParticipantId, people), evidence.Quote.Kind, [.. shown]);

        string Mask(string text) => NameMask.Apply(text, named);
    }

    private static string NameOf(long? participantId, Participants people) => people.People.FirstOrDefault(p => p.Id == participantId)?.Pseudonym ?? "A participant";
}
