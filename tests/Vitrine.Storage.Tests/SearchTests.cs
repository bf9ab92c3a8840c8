using Dapper;
using Vitrine.Core.Access;
using Vitrine.Core.RichTexts;
using Vitrine.Storage.Access;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Gather.Studies;
using Vitrine.Storage.Search;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

public sealed class SearchTests : IDisposable
{
    private readonly TestWorkspace w = new();
    private readonly StudyAccess access;
    private readonly SearchStore search;

    public SearchTests()
    {
        access = new StudyAccess(w.Workspace);
        search = new SearchStore(w.Workspace, access);
    }

    public void Dispose() => w.Dispose();

    [Theory]
    [InlineData("stand", "standing")] // one stem
    [InlineData("STANDS", "standing")]
    [InlineData("qua", "quay")] // not finished yet
    [InlineData("quáy", "quay")] // accents fold
    [InlineData("\"standing on the\"", "standing on the")]
    [InlineData("already quay", "already")] // both, anywhere
    public void Words_are_found_in_a_text_by_stem_beginning_and_phrase(string typed, string first)
    {
        var hit = Assert.Single(Find(typed), h => h.Kind == FoundKind.Text);
        Assert.Equal(first, hit.Marks[0].Of(hit.Words));
        Assert.Equal(first, TestWorkspace.Interview.Substring(hit.At!.Value, first.Length));
        Assert.Equal("Interview", hit.Name);
    }

    [Fact]
    public void Words_are_found_in_place_inside_the_sources_of_a_study()
    {
        var long_ = w.AddSource(
            "Long",
            string.Concat(Enumerable.Repeat("The quáys were wet. " + new string('x', 300) + " ", 5)) + "A quay is dry."
        );
        var found = search.InSources(w.Study, "quay", 10, 3);
        Assert.Equal([w.Source, long_], found.Select(f => f.SourceId).Order());
        var inLong = found.Single(f => f.SourceId == long_);
        Assert.Equal(6, inLong.Hits);
        Assert.Equal(3, inLong.Passages.Count);
        Assert.Equal(3, inLong.Passages.Select(p => p.At).Distinct().Count());
        var text = w.Sources.Get(long_, 0).Text;
        Assert.All(inLong.Passages, p => Assert.Equal(p.Marks[0].Of(p.Words), text.Substring(p.At, p.Marks[0].Length)));
        Assert.Empty(search.InSources(w.Study.Value + 1, "quay", 10, 3));
        Assert.Empty(search.InSources(w.Study, " ? ", 10, 3));
    }

    [Theory]
    [InlineData("\"stand\"")] // in quotes it is meant as it stands
    [InlineData("\"quay standing\"")] // not in this order
    [InlineData("quay harbour")] // one of them is not there
    [InlineData("qua ")] // finished: no such word
    [InlineData("")]
    [InlineData("\"")]
    [InlineData("* ( ) ^ : - NEAR")]
    public void What_is_not_there_is_not_found_and_signs_are_no_syntax(string typed) => Assert.Empty(Find(typed));

    [Fact]
    public void Everything_that_has_a_name_or_words_is_found_by_them()
    {
        w.Mark(w.Ida, "Nobody tells you", "silence of the lambkin");
        var observation = w.Observations.In(w.Source, w.Steward.AccountId).Single().Id;
        w.Observations.SetNote(w.Ida, observation, "", "lambkin again");
        w.Remark(w.Tom, "It was off", "why lambkin?");
        w.Themes.Make(w.Ida, w.Study, "Lambkin theme", "", null, [], []);
        var insight = w.Insights.Make(w.Ida, w.Study, "The lambkin", RichText.Empty, []).Id!.Value;
        w.Exhibits.Make(w.Ida, "Why lambkin?", "");
        w.AddSource("Lambkin talk", "Wren: a lambkin.");
        new StudyStore(w.Workspace).Create(w.Ida, new StudyText("Lambkin study", "", "", []));
        Assert.Equal(Enum.GetValues<FoundKind>(), Find("lambkins").Select(h => h.Kind).Distinct().Order());

        Assert.Equal(
            "Nobody tells you.\nlambkin again".Replace(".", ""),
            Find("lambkin").Single(h => h.Kind == FoundKind.Observation).Words
        );
        w.Insights.RewriteHeadline(w.Ida, insight, "The lambkin", "The ram");
        Assert.DoesNotContain(Find("lambkin"), h => h.Kind == FoundKind.Insight);
        Assert.Contains(Find("ram"), h => h.Kind == FoundKind.Insight && h.Id == insight);
        w.Undo.Back(w.Ida, w.Study);
        Assert.Contains(Find("lambkin"), h => h.Kind == FoundKind.Insight);
    }

    [Fact]
    public void A_source_that_is_removed_is_found_no_more_and_again_after_undo()
    {
        w.Mark(w.Ida, "standing on the quay", "quay");
        w.Sources.Remove(w.Ida, w.Source);
        Assert.Equal([FoundKind.Tag], Find("quay").Select(h => h.Kind));
        w.Undo.Back(w.Ida, w.Study);
        Assert.Equal([FoundKind.Tag, FoundKind.Observation, FoundKind.Text], Find("quay").Select(h => h.Kind));
    }

    [Fact]
    public void The_words_of_an_observation_are_counted_as_the_browser_counts()
    {
        w.Mark(w.Ida, "It was off");
        Assert.Equal("It was off", Find("off").Single(h => h.Kind == FoundKind.Observation).Words);
    }

    [Fact]
    public void Only_members_and_stewards_find_a_study()
    {
        w.Mark(w.Ida, "standing on the quay");
        Assert.Empty(search.Find(new Viewer(w.Tom.AccountId, Role.Researcher), "quay", null, 6));
        Assert.NotEmpty(search.Find(new Viewer(w.Tom.AccountId, Role.Steward), "quay", null, 6));
        access.SetMembers(w.Ida, w.Study, [w.Ida.AccountId, w.Tom.AccountId]);
        Assert.NotEmpty(search.Find(new Viewer(w.Tom.AccountId, Role.Researcher), "quay", null, 6));
    }

    [Fact]
    public void A_workspace_from_before_there_was_an_index_gets_one()
    {
        w.Mark(w.Ida, "It was off", "off");
        using (var connection = w.Workspace.Open())
        {
            connection.Execute("DELETE FROM searchable");
            connection.Execute("INSERT INTO source_search (source_search) VALUES ('delete-all')");
        }
        Assert.Empty(Find("off"));
        Assert.Equal(
            [FoundKind.Tag, FoundKind.Observation, FoundKind.Text],
            new SearchStore(new Workspace(w.Workspace.Folder, TimeProvider.System), access)
                .Find(new Viewer(1, Role.Steward), "off", null, 6)
                .Select(h => h.Kind)
        );
    }

    private IReadOnlyList<Hit> Find(string typed) => search.Find(new Viewer(w.Ida.AccountId, Role.Researcher), typed, null, 6);
}
