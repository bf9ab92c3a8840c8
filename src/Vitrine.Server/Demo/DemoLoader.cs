using Vitrine.Core.Gather.Intake;
using Vitrine.Core.Gather.Participants;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.RichTexts;
using Vitrine.Server.Access;
using Vitrine.Server.Gather.Attachments;
using Vitrine.Server.Gather.Corrections;
using Vitrine.Server.Gather.Intake;
using Vitrine.Server.Gather.LiveNotes;
using Vitrine.Server.Gather.Participants;
using Vitrine.Server.Gather.Privacy;
using Vitrine.Server.Gather.Sessions;
using Vitrine.Server.Gather.Sources;
using Vitrine.Server.Gather.Surveys;
using Vitrine.Server.Http;
using Vitrine.Server.Mark.Blind;
using Vitrine.Server.Mark.MarginNotes;
using Vitrine.Server.Mark.Observations;
using Vitrine.Server.Mark.Reading;
using Vitrine.Server.Show.Exhibits;
using Vitrine.Server.Show.Insights;
using Vitrine.Server.Sort.TagSet;
using Vitrine.Server.Weigh.Evidence;
using Vitrine.Storage.Access;
using Vitrine.Storage.Gather.Attachments;
using Vitrine.Storage.Gather.Intake;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Jobs;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Weigh.Evidence;

namespace Vitrine.Server.Demo;

/// <summary>Loads the demo workspace through the public API, as a person with a browser would.</summary>
internal sealed partial class DemoLoader(HttpClient http, string folder) : DemoClient(http, folder)
{
    private const int MillisecondsInMinute = 60_000;

    private readonly Dictionary<string, AccountId> accounts = new();
    private readonly Dictionary<string, TagId> tags = new();
    private readonly Dictionary<string, ObservationId> noted = new();

    /// <exception cref="InvalidOperationException">A file of the demo does not fit, with a sentence that says which and where.</exception>
    public async Task Load()
    {
        await TakeToken();
        var workspace = await Read<DemoWorkspace>("workspace.json");
        foreach (var account in workspace.Accounts)
        {
            var made = await Post<Account>(accounts.Count == 0 ? "set-up" : "accounts", account);
            accounts[account.Email] = made.Id;
            await TakeToken();
        }
        foreach (var family in workspace.TagSet)
        {
            var parent = await Post<Step>("tags", new TagText(family.Name, null, family.Colour, family.Definition, true, null));
            foreach (var tag in family.Tags)
                tags[tag.Name] = (
                    await Post<Step>(
                        "tags",
                        new TagText(tag.Name, parent.Id, null, tag.Definition, true, tag.Scale, tag.IsNot ?? "", tag.Aliases)
                    )
                )
                    .Id!
                    .Value;
        }
        foreach (var study in workspace.Studies)
            await LoadStudy(study);
    }

    private async Task LoadStudy(string name)
    {
        var study = await Read<DemoStudy>(Path.Combine(name, "study.json"));
        await As(accounts.Keys.ElementAt(1));
        var id = (await Post<Step>("studies", study.Text)).Id!.Value;
        await Put($"studies/{id}/members", new Members([accounts.Values.ElementAt(1), .. study.Team.Select(email => accounts[email])]));
        var people = await LoadParticipants(id, study);
        var sessions = new Dictionary<string, SessionId>();
        foreach (var session in study.Sessions ?? [])
        {
            sessions[session.Title] = (
                await Post<Step>(
                    $"studies/{id}/sessions",
                    new NewSession(
                        new SessionGiven(
                            session.Title,
                            session.Kind,
                            session.HeldOn,
                            session.Minutes,
                            session.Moderator,
                            [.. session.Participants.Select(p => people[p])]
                        ),
                        []
                    )
                )
            )
                .Id!
                .Value;
        }
        foreach (var source in study.Sources)
            await LoadSource(id, name, source, sessions);
        foreach (var attachment in study.Attachments ?? [])
            await LoadAttachment(id, name, attachment);
        foreach (var survey in study.Surveys ?? [])
            await LoadSurvey(id, name, survey);
        await LoadIntake(id, study);
        foreach (var erased in study.Erased ?? [])
            await LoadErased(id, erased);
        // Whoever has marked last has not sorted everything.
        await As(accounts.Keys.ElementAt(1));
        var quotes = (await Quotes(id)).ToLookup(q => q.Words, q => q.ObservationId);
        foreach (var silent in study.NotAsked)
        {
            await Put(
                $"studies/{id}/not-asked",
                new NotAsked(AskedThing.Tag, tags[silent.Tag].Value, [.. silent.Participants.Select(p => people[p])])
            );
        }
        await LoadTagWork(id, study, Observation);
        await As(accounts.Keys.ElementAt(1));
        await LoadThemes(id, study, Observation);
        var insights = new Dictionary<string, InsightId>();
        foreach (var insight in study.Insights)
        {
            var made = (await Post<Step>($"studies/{id}/insights", new NewInsight(insight.Headline, StoryOf(insight), []))).Id!.Value;
            foreach (var (stance, words) in insight.Evidence)
                await Post<Step>($"insights/{made}/evidence", new NewEvidence([.. words.Select(Observation)], stance));
            if (insight.NotAsked.Count > 0)
                await Put($"studies/{id}/not-asked", new NotAsked(AskedThing.Insight, made, [.. insight.NotAsked.Select(p => people[p])]));
            insights[insight.Headline] = made;
        }
        foreach (var exhibit in study.Exhibits)
        {
            var made = (await Post<Step>("exhibits", new NewExhibit(exhibit.Question, exhibit.Summary))).Id!.Value;
            await Put($"exhibits/{made}/insights", new Arrangement([.. exhibit.Insights.Select(h => insights[h])]));
        }

        // A paragraph that begins with "> " stands for the quote with these words.
        RichText StoryOf(DemoInsight insight) =>
            new([
                .. RichText
                    .FromPlain(insight.Story)
                    .Blocks.Select(b =>
                        new RichText([b]).Plain is var words && words.StartsWith("> ", StringComparison.Ordinal)
                            ? new Embedded(EmbeddedAs.Quote, new ThingRef(ThingKind.Observation, Observation(words[2..]).Value), "")
                            : b
                    ),
            ]);

        ObservationId Observation(string words) =>
            quotes.FirstOrDefault(q => q.Key.Contains(words, StringComparison.Ordinal))?.First()
            // What has no words is called by its note.
            ?? (noted.TryGetValue(words, out var seen) ? seen : (ObservationId?)null)
            ?? throw new InvalidOperationException($"demo/{name}/study.json quotes words that no observation holds: “{words}”.");
    }

    private async Task<Dictionary<string, ParticipantId>> LoadParticipants(StudyId studyId, DemoStudy study)
    {
        var attributes = new List<AttributeId>();
        foreach (var attribute in study.Attributes)
            attributes.Add((await Post<Step>($"studies/{studyId}/attributes", new NewAttribute(attribute.Name, attribute.Kind))).Id!.Value);
        var people = new Dictionary<string, ParticipantId>();
        foreach (var person in study.Participants)
        {
            var id = people[person.Code] = (
                await Post<Step>($"studies/{studyId}/participants", new ParticipantText(person.Code, person.Pseudonym, person.RealName))
            )
                .Id!
                .Value;
            if (person.Values.Count > 0)
                await Put(
                    $"studies/{studyId}/participants/cells",
                    new CellsGiven([
                        .. person.Values.Select((value, i) => new ParticipantCell(id, ParticipantColumn.Attribute, attributes[i], value)),
                    ])
                );
        }
        foreach (var consent in study.Participants.GroupBy(p => p.Consent))
            await Put($"studies/{studyId}/participants/consent", new NotedConsent([.. consent.Select(p => people[p.Code])], consent.Key));
        return people;
    }

    private async Task LoadAttachment(StudyId studyId, string study, DemoAttachment attachment)
    {
        await Import(studyId, PathOf(study, attachment.File), SourceKind.Document, JobState.Done, attachment: true);
        await PutAway(studyId);
        var there = (await Get<IReadOnlyList<Attachment>>($"studies/{studyId}/attachments"))[^1];
        await Put(
            $"studies/{studyId}/attachments/{there.Id}",
            new AttachmentText(attachment.Title, attachment.Note, there.Version, [.. attachment.Tags.Select(t => tags[t])], [])
        );
    }

    private async Task LoadSource(StudyId studyId, string study, DemoSource source, Dictionary<string, SessionId> sessions)
    {
        var id = source.File.EndsWith(".live.json", StringComparison.Ordinal)
            ? await LoadLiveNotes(studyId, Path.Combine(study, source.File), sessions[source.Session!])
            : await LoadFile(studyId, PathOf(study, source.File), source.Kind);
        await Put(
            $"sources/{id}",
            new SourceText(source.Title, source.Kind, source.HeldOn, source.Session is { } session ? sessions[session] : null, [])
        );
        var text = (await Get<Source>($"sources/{id}")).Text;
        foreach (var (reader, share) in source.ReadBy)
        {
            await As(reader);
            await Put($"sources/{id}/reading", new Reached((int)(text.Length * share)));
        }
        if (source.Blind is { } blind)
            await Put($"sources/{id}/blind", new GivenBlind([.. blind.Select(email => accounts[email])]));
        if (source.Marks is not null)
            await LoadMarks(id, study, source, text);
        foreach (var tagger in source.Blind ?? [])
        {
            await As(tagger);
            await Put($"sources/{id}/blind/done", new BlindDone(true));
        }
        foreach (var (was, now) in source.Corrections ?? [])
        {
            if (!text.Contains(was, StringComparison.Ordinal))
                throw new InvalidOperationException($"demo/{study}/study.json corrects words that are not in {source.File}: “{was}”.");
            var there = await Get<Source>($"sources/{id}");
            await Put($"sources/{id}/text", new NewSourceText(there.Text.Replace(was, now), there.TextHash));
        }
    }

    private async Task<SourceId> LoadFile(StudyId studyId, string path, SourceKind kind)
    {
        var import = await Import(studyId, path, kind, JobState.Done);
        await PutAway(studyId);
        return import.SourceId!.Value;
    }

    private async Task<SourceId> LoadLiveNotes(StudyId studyId, string file, SessionId sessionId)
    {
        var notes = (await Post<Step>($"studies/{studyId}/live-notes/of/{sessionId}", new { })).Id!.Value;
        foreach (var line in await Read<IReadOnlyList<DemoLine>>(file))
        {
            await As(line.By);
            var at = line.Minute * MillisecondsInMinute;
            await Post<Step>($"studies/{studyId}/live-notes/{notes}/lines", new NewLine(line.Typed, at, at));
        }
        await As(accounts.Keys.ElementAt(1));
        return (await Post<Step>($"studies/{studyId}/live-notes/{notes}/end", new { })).Id!.Value;
    }

    private async Task LoadIntake(StudyId studyId, DemoStudy study)
    {
        if (study.Watches is null)
            return;
        foreach (var watch in study.Watches)
            await Post<Step>(
                $"studies/{studyId}/watches",
                new WatchGiven(watch.Name, new WatchRule(watch.Words, false, "", null, watch.RatingTo, null), true)
            );
        await Post<Arrival>("intake/simulated/next?count=8", new { });
        foreach (var (titles, state) in new[] { (study.Kept, RoutingState.Kept), (study.Dismissed, RoutingState.Dismissed) })
        {
            var pieces = (await Get<FeedbackPage>("intake?view=all&page=0")).Feedback.Where(f => titles?.Contains(f.Title) == true);
            await Post<Step>($"studies/{studyId}/routings", new Settled([.. pieces.Select(f => f.Routings.Single().Id)], state));
        }
    }

    private async Task LoadErased(StudyId studyId, DemoErased erased)
    {
        var person = (
            await Post<Step>($"studies/{studyId}/participants", new ParticipantText(erased.Code, erased.Pseudonym, erased.RealName))
        )
            .Id!
            .Value;
        await Post<SourceAdded>(
            $"studies/{studyId}/sources/paste",
            new PastedSource(erased.Title, SourceKind.Interview, null, erased.Text, null, [])
        );
        await Put($"studies/{studyId}/participants/consent", new NotedConsent([person], Consent.Withdrawn));
        await Post<object?>($"studies/{studyId}/participants/{person}/erase", new ErasureConfirmed(erased.Code));
    }

    private async Task LoadMarks(SourceId id, string study, DemoSource source, string text)
    {
        var from = 0;
        foreach (var mark in await Read<IReadOnlyList<DemoMark>>(Path.Combine(study, source.Marks!)))
        {
            var anchor =
                Anchored(mark, text, from)
                ?? throw new InvalidOperationException(
                    $"demo/{study}/{source.Marks} quotes words that are not in {source.File}: “{mark.Quote}”."
                );
            from = anchor.Start ?? from;
            await As(mark.By);
            if (mark.Margin is { } words)
            {
                await Post<Step>($"sources/{id}/margin-notes", new NewMarginNote(anchor, words, mark.Unsure));
                continue;
            }
            var known = mark.Tags.Where(tags.ContainsKey).Select(t => tags[t]).ToList();
            var made = await Post<Step>(
                $"sources/{id}/observations",
                new NewObservation(anchor, known, [.. mark.Tags.Where(t => !tags.ContainsKey(t))])
            );
            if (mark.Note is { } note)
            {
                noted[note] = made.Id!.Value;
                await Put($"observations/{made.Id}/note", new NewText(note, ""));
            }
            if (mark.Sentiment is { } sentiment)
                await Put($"observations/{made.Id}/sentiment", new SentimentChoice(sentiment));
            foreach (var (tag, value) in mark.Values ?? new Dictionary<string, double>())
                await Put($"observations/{made.Id}/tags/{tags[tag]}/value", new ScaleValue(value));
            if (mark.ExampleOf is { } tagged)
                await Put($"observations/{made.Id}/tags/{tags[tagged]}/example", new ExampleChoice(true));
            if (mark.Unsure)
                await Put($"observations/{made.Id}/unsure", new UnsureReading(true));
            if (mark.Starred)
                await Put($"observations/{made.Id}/star", new Star(true));
        }
    }

    /// <summary>Where a mark stands; words are looked for from a place on, else from the beginning. Null where there are none.</summary>
    private static AnchorGiven? Anchored(DemoMark mark, string text, int from)
    {
        if (mark.Clip is [var begin, var end])
            return new AnchorGiven(AnchorKind.Time, BeginMs: (int)(begin * 1000), EndMs: (int)(end * 1000));
        if (mark.Region is [var x, var y, var width, var height])
            return new AnchorGiven(AnchorKind.Region, X: x, Y: y, Width: width, Height: height);
        var at = text.IndexOf(mark.Quote!, from, StringComparison.Ordinal);
        if (at < 0)
            at = text.IndexOf(mark.Quote!, StringComparison.Ordinal);
        return at < 0 ? null : new AnchorGiven(AnchorKind.Text, at, at + mark.Quote!.Length);
    }

    private async Task LoadSurvey(StudyId studyId, string study, DemoSurvey survey)
    {
        var import = await Import(studyId, PathOf(study, survey.File), SourceKind.Survey, JobState.Table);
        var table = await Get<SurveyTable>($"studies/{studyId}/imports/{import.Key}/table");
        await Post<object?>(
            $"studies/{studyId}/imports/{import.Key}/survey",
            new SurveyGiven(survey.Name, table.HeaderRows, table.Columns)
        );
        await Ended(studyId, import, JobState.Done);
        await PutAway(studyId);
    }

    private string? current;

    private async Task As(string email)
    {
        if (current == email)
            return;
        await Post<Account>("demo/sign-in", new DemoSignIn(accounts[email]));
        current = email;
        await TakeToken();
    }

    private async Task<IReadOnlyList<Quote>> Quotes(StudyId studyId)
    {
        var all = new List<Quote>();
        for (var page = 0; ; page++)
        {
            var next = await Get<QuotePage>($"studies/{studyId}/evidence/quotes?page={page}");
            all.AddRange(next.Quotes);
            if (all.Count >= next.Total || next.Quotes.Count == 0)
                return all;
        }
    }
}
