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

/// <summary>The reader's side of an exhibit: opened by its secret token, without an account, read-only; every word passes <see cref="Leaving"/>.</summary>
internal static class ReadEndpoints
{
    private const int TurnsAround = 2;

    public static void MapReading(this WebApplication app)
    {
        var read = app.MapGroup("/api/read/{token}").WithTags("Read");
        read.MapGet("", (string token, ExhibitStore exhibits, InsightStore insights, InsightPages pages, LeavingGuard guard) =>
        {
            var exhibit = exhibits.Get(Opened(exhibits, token));
            var (shown, leaving) = Shown(exhibit.Id, exhibits, insights, pages, guard);
            return new ReaderPage(leaving.Written(exhibit.Question), leaving.Written(exhibit.Summary), exhibit.UpdatedAt, [.. shown.Select(p => Of(p, leaving))]);
        });
        read.MapGet("/context/{evidenceKey}", (string token, string evidenceKey, ExhibitStore exhibits, InsightStore insights, InsightPages pages, LeavingGuard guard) =>
        {
            var (shown, leaving) = Shown(Opened(exhibits, token), exhibits, insights, pages, guard);
            var (page, evidence) = shown.SelectMany(p => Told(p, leaving).Select(e => (p, e))).FirstOrDefault(x => x.e.Key == evidenceKey);
            return evidence is null ? throw Refusal.Missing("quote") : ContextOf(evidence, leaving.People(page.Insight.StudyId), leaving);
        });
    }

    private static long Opened(ExhibitStore exhibits, string token) =>
        exhibits.Opened(token) ?? throw new Refusal(RefusalKind.NotFound, "This link does not open anything any more. Ask the person who sent it for a new one.");

    private static (IReadOnlyList<InsightPage> Shown, Leaving Leaving) Shown(long exhibitId, ExhibitStore exhibits, InsightStore insights, InsightPages pages, LeavingGuard guard)
    {
        var shown = pages.Published([.. exhibits.InsightsOf(exhibitId).Select(insights.Get)]);
        return (shown, guard.Over([.. shown.Select(p => p.Insight.StudyId).Distinct()]));
    }

    /// <summary>What a reader is told: the words for and against, as far as consent allows; context stays with the team.</summary>
    private static IEnumerable<EvidenceQuote> Told(InsightPage page, Leaving leaving) => page.Evidence.Where(e => e.Stance != Stance.Context && leaving.MayLeave(e.Quote));

    private static ReaderInsight Of(InsightPage page, Leaving leaving)
    {
        var people = leaving.People(page.Insight.StudyId);
        var cells = people.People.Select((p, i) => (Person: p, Cell: new ReaderCell(p.Pseudonym, page.Breadth.Strip[i], page.Breadth.Against[i], page.Breadth.Asked[i]))).Where(c => c.Person.Consent != Consent.Withdrawn).Select(c => c.Cell).ToList();
        var quotes = Told(page, leaving).Select(e => new ReaderQuote(e.Key, leaving.Words(e.Quote), NameOf(e.Quote.ParticipantId, people), e.Quote.Kind, e.Stance)).ToList();
        return new ReaderInsight(leaving.Written(page.Insight.Headline), leaving.Written(page.Insight.Story), page.Facts, page.Breadth.OutOf, page.NewestEvidence, cells, quotes);
    }

    private static ReaderContext ContextOf(EvidenceQuote evidence, Participants people, Leaving leaving)
    {
        var (source, quote) = (leaving.SourceOf(evidence.Quote.SourceId), new TextRange(evidence.Quote.Start, evidence.Quote.End));
        if (evidence.Quote.Gone) return new ReaderContext(NameOf(evidence.Quote.ParticipantId, people), evidence.Quote.Kind, []);
        var turns = source.Turns.ToList();
        var first = Math.Max(0, turns.FindIndex(t => t.End > quote.Start) - TurnsAround);
        var last = turns.FindLastIndex(t => t.Start < quote.End) + TurnsAround;
        var shown = turns.Skip(first).Take(last - first + 1).Select(t =>
        {
            var speaker = source.Line.Speakers.FirstOrDefault(s => s.Id == t.SpeakerId);
            var who = speaker is null || (!speaker.IsTeam && speaker.ParticipantId is null) ? "" : speaker.IsTeam ? "Researcher" : NameOf(speaker.ParticipantId, people);
            var at = t.BeginMs + source.Line.OffsetMs;
            if (!leaving.MayLeave(source, speaker)) return new ReaderTurn(who, false, Leaving.KeptInTeam, at, null, null);
            var (from, to) = (Math.Max(t.Start, quote.Start), Math.Min(t.End, quote.End));
            if (from >= to) return new ReaderTurn(who, speaker?.IsTeam ?? false, Stretch(t.Start, t.End), at, null, null);
            var (before, inside, after) = (Stretch(t.Start, from), Stretch(from, to), Stretch(to, t.End));
            return new ReaderTurn(who, speaker?.IsTeam ?? false, before + inside + after, at, before.Length, before.Length + inside.Length);
        });
        return new ReaderContext(NameOf(evidence.Quote.ParticipantId, people), evidence.Quote.Kind, [.. shown]);

        string Stretch(int start, int end) => leaving.Stretch(source.Line.Id, start, end);
    }

    private static string NameOf(long? participantId, Participants people) => people.People.FirstOrDefault(p => p.Id == participantId)?.Pseudonym ?? "A participant";
}
