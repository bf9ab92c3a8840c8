using System.Text.Json;
using Dapper;
using Vitrine.Core.Gather.Sessions;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.RichTexts;
using Vitrine.Core.Weigh.Evidence;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Gather.Sessions;
using Vitrine.Storage.Mark.Reading;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

/// <summary>
/// Whatever one person does, undoing all of it gives the workspace as it was, and redoing all of it the workspace as it became.
/// </summary>
public sealed class UndoPropertyTests
{
    private static readonly IReadOnlyList<string> Tables = [.. WorkspaceCatalogue.Own.Tables.Where(t => t.IsTrailed).Select(t => t.Table)];

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    [InlineData(5)]
    [InlineData(6)]
    public void Undoing_everything_and_redoing_everything(int seed)
    {
        using var w = new TestWorkspace();
        var before = Picture(w);
        var random = new Random(seed);
        Assert.Empty(Steps(w));
        for (var i = 0; i < 40; i++)
            DoSomething(w, random);
        var after = Picture(w);

        var undone = 0;
        while (Steps(w).Any(s => !s.Undone))
        {
            w.Undo.Back(w.Tom, w.Study);
            undone++;
        }
        Assert.Equal(before, Picture(w));

        for (; undone > 0; undone--)
            w.Undo.Again(w.Tom, w.Study);
        Assert.DoesNotContain(Steps(w), s => s.Undone);
        Assert.Equal(after, Picture(w));
    }

    /// <summary>The arrays of counting, followed step by step, are those that are read anew.</summary>
    [Theory]
    [InlineData(11)]
    [InlineData(12)]
    [InlineData(13)]
    public void Counting_follows_every_step(int seed)
    {
        using var w = new TestWorkspace();
        var random = new Random(seed);
        var followed = new StudyIndexStore(w.Workspace);
        for (var i = 0; i < 60; i++)
        {
            if (i % 5 == 4 && Steps(w).Any(s => !s.Undone))
                w.Undo.Back(w.Tom, w.Study);
            else
                DoSomething(w, random);
            if (random.Next(3) == 0)
                new ReadingStore(w.Workspace).Reach(w.Tom.AccountId, w.Source, i);
            if (random.Next(4) == 0)
                continue;
            Assert.Equal(Told(new StudyIndexStore(w.Workspace).Load(w.Study)), Told(followed.Load(w.Study)));
        }

        static string Told(StudyIndex index) =>
            JsonSerializer.Serialize(
                new
                {
                    index.Observations,
                    index.People,
                    index.Tags,
                    index.InScope,
                    index.Sources,
                    index.Marks.SourceOf,
                    index.Marks.PersonOf,
                    Anchors = index.Marks.AnchorOf.Select(a => a.ToString()),
                    index.Marks.TagStarts,
                    index.Marks.TagOf,
                    Parents = Enumerable.Range(0, index.Marks.Tags.Count).Select(index.Marks.Tags.WithAncestors),
                }
            );
    }

    private static IReadOnlyList<TrailEntry> Steps(TestWorkspace w) => w.Trail.Recent(w.Tom.AccountId, w.Study);

    private static void DoSomething(TestWorkspace w, Random random)
    {
        var observations = w.Observations.In(w.Source, w.Steward.AccountId);
        var tags = w.Tags.For(w.Study);
        var themes = w.Themes.In(w.Study, w.Steward.AccountId);
        var insights = w.Insights.In([w.Study]);
        T Any<T>(IEnumerable<T> ids) => ids.ElementAt(random.Next(ids.Count()));
        switch (random.Next(19))
        {
            case 0 or 1 or 2:
                var words = w.Sources.Get(w.Source, w.Tom.AccountId).Text;
                var start = random.Next(words.Length - 12);
                if (string.IsNullOrWhiteSpace(words.Substring(start, 10)))
                    break;
                w.Observations.Make(
                    w.Tom,
                    w.Source,
                    TestWorkspace.Words(start, start + 10),
                    [],
                    [TestWorkspace.Named("tag " + random.Next(6))]
                );
                break;
            case 18 when insights.Count > 0 && observations.Count > 0:
                var told = insights[random.Next(insights.Count)];
                w.Insights.RewriteStory(
                    w.Tom,
                    told.Id,
                    told.Story,
                    new RichText([
                        .. told.Story.Blocks.Take(2),
                        new Embedded(EmbeddedAs.Quote, new ThingRef(ThingKind.Observation, Any(observations.Select(o => o.Id.Value))), ""),
                        new Paragraph([new TextRun("So it is " + random.Next(99))]),
                    ])
                );
                break;
            case 3 when observations.Count > 0:
                w.Observations.SetSentiment(w.Tom, Any(observations.Select(o => o.Id)), (Sentiment)random.Next(4));
                break;
            case 4 when observations.Count > 0:
                w.Observations.Remove(w.Tom, w.Study, [Any(observations.Select(o => o.Id))]);
                break;
            case 5 when observations.Count > 0 && tags.Count > 0:
                w.Observations.Tag(w.Tom, w.Study, [.. observations.Select(o => o.Id)], [Any(tags.Select(t => t.Id))], []);
                break;
            case 6:
                w.Themes.Make(
                    w.Tom,
                    w.Study,
                    "Theme",
                    "",
                    themes.Count > 0 ? themes[0].Id : null,
                    [.. observations.Take(2).Select(o => o.Id)],
                    [.. tags.Take(1).Select(t => t.Id)]
                );
                break;
            case 7 when themes.Count > 0:
                w.Themes.Remove(w.Tom, Any(themes.Select(t => t.Id)));
                break;
            case 8 when observations.Count > 0:
                w.Insights.Make(w.Tom, w.Study, "Insight", RichText.Empty, [.. observations.Take(3).Select(o => o.Id)]);
                break;
            case 9 when insights.Count > 0 && observations.Count > 0:
                w.Insights.Attach(w.Tom, insights[0].Id, [Any(observations.Select(o => o.Id))], (Stance)random.Next(3));
                break;
            case 10 when insights.Count > 0:
                w.Insights.Remove(w.Tom, Any(insights.Select(i => i.Id)));
                break;
            case 11:
                w.Sessions.Add(
                    w.Tom,
                    w.Study,
                    new SessionText("Session", (SessionKind)random.Next(4), null, random.Next(1, 90), "", [w.Sorrel]),
                    [w.Source]
                );
                break;
            case 12 when w.Sessions.In(w.Study) is [{ } session, ..]:
                w.Sessions.Remove(w.Tom, w.Study, session.Id);
                break;
            case 13:
                w.Attachments.Add(w.Tom, w.Study, "Plan", new NewMedia("ab" + random.Next(9), "plan.pdf", "application/pdf", 4));
                break;
            case 14 when w.Attachments.In(w.Study) is [.., { } last] && insights.Count > 0:
                w.Attachments.SetOf(w.Tom, w.Study, insights[0].Id, [last.Id]);
                w.Attachments.Change(
                    w.Tom,
                    w.Study,
                    last.Id,
                    last.Version,
                    "Plan of the quay",
                    "",
                    [.. tags.Take(2).Select(t => t.Id)],
                    []
                );
                break;
            case 15 when w.Attachments.In(w.Study) is [{ } attachment, ..]:
                w.Attachments.Remove(w.Tom, w.Study, attachment.Id);
                break;
            case 16 or 17:
                var text = w.Sources.Get(w.Source, w.Tom.AccountId).Text;
                var cut = random.Next(text.Length - 20);
                w.Corrections.Correct(
                    w.Tom,
                    w.Source,
                    TestWorkspace.Corrected(w, text.Remove(cut, random.Next(9)).Insert(cut, random.Next(2) == 0 ? "a b" : "")),
                    []
                );
                break;
        }
    }

    private static string Picture(TestWorkspace w)
    {
        using var connection = w.Workspace.Open();
        connection.Execute("INSERT INTO source_search (source_search, rank) VALUES ('integrity-check', 1)");
        var found = connection
            .Query("SELECT rowid, name, words FROM searchable ORDER BY rowid")
            .Select(r => JsonSerializer.Serialize((IDictionary<string, object?>)r));
        return string.Join('\n', found)
            + string.Join(
                '\n',
                Tables.SelectMany(t =>
                    connection
                        .Query($"SELECT * FROM {t} ORDER BY id")
                        .Select(r => t + JsonSerializer.Serialize((IDictionary<string, object?>)r))
                )
            );
    }
}

public sealed class TogetherTests : IDisposable
{
    private readonly TestWorkspace w = new();

    public void Dispose() => w.Dispose();

    [Fact]
    public void Two_people_marking_at_once_lose_nothing()
    {
        Parallel.For(
            0,
            60,
            i =>
            {
                var start = i % 30;
                w.Observations.Make(
                    i % 2 == 0 ? w.Ida : w.Tom,
                    w.Source,
                    TestWorkspace.Words(start, start + 12 + i),
                    [],
                    [TestWorkspace.Named("together")]
                );
            }
        );
        var marks = w.Observations.In(w.Source, w.Steward.AccountId);
        Assert.Equal(60, marks.Sum(m => m.TagIds.Count));
        Assert.Single(w.Tags.For(w.Study));
        Assert.Equal(["Ida Moss", "Tom Varley"], marks.Select(m => m.CreatedBy).Distinct().Order());
    }

    [Fact]
    public async Task Readers_see_either_all_of_a_step_or_none_of_it()
    {
        using var stop = new CancellationTokenSource();
        var torn = 0;
        var reader = Task.Run(() =>
        {
            while (!stop.IsCancellationRequested)
            {
                if (w.Themes.In(w.Study, w.Steward.AccountId).Any(t => t.Observations.Count is not (0 or 3)))
                    torn++;
            }
        });
        ObservationId[] ids = [w.Mark(w.Ida, "standing").Id!.Value, w.Mark(w.Ida, "Nobody").Id!.Value, w.Mark(w.Ida, "quay").Id!.Value];
        var theme = w.Themes.Make(w.Ida, w.Study, "Theme", "", null, [], []).Id!.Value;
        for (var i = 0; i < 25; i++)
        {
            w.Themes.Lay(w.Ida, theme, ids, []);
            w.Themes.TakeOut(w.Ida, theme, ids, []);
        }
        await stop.CancelAsync();
        await reader;
        Assert.Equal(0, torn);
    }
}
