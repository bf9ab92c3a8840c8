using System.Text.RegularExpressions;
using Dapper;
using Vitrine.Core.RichTexts;
using Vitrine.Storage.Access;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Mark.Blind;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

public sealed partial class SeenMarksTests : IDisposable
{
    private readonly TestWorkspace w = new();

    public void Dispose() => w.Dispose();

    /// <summary>Where every mark may be read, and why.</summary>
    private static readonly Dictionary<string, string> ReadAll = new()
    {
        ["QuoteStore.Of"] = "only what stands in an index, which is its viewer's",
        ["TrailStore.In"] = "only to know the study and the source of a step; steps that touched unseen marks are left out",
        ["ObservationReads.StudyOf"] = "for a write; the door has held the id against what its person sees",
        ["ObservationReads.PlaceOf"] = "of one id, which the door has held against what its person sees",
        ["MarginNoteStore.StudyOf"] = "for a write; the door has held the id against what its person sees",
    };

    [Fact]
    public void Marks_are_read_through_what_a_person_may_see()
    {
        var tables = string.Join('|', SeenMarks.Tables(WorkspaceCatalogue.Own));
        Assert.Contains("observation_tag", tables);
        var reading = new Regex($@"\b(FROM|JOIN)\s+({tables})\b");
        var members = Sources()
            .SelectMany(f => Members(f).Where(m => reading.IsMatch(m.Code) && Opens().IsMatch(m.Code)).Select(m => m.Name));
        Assert.Equal(ReadAll.Keys.Order(), members.Distinct().Order());
        // Where every mark is meant although somebody looks, it is written out.
        Assert.Equal(
            ["ObservationRows", "PublicationStore", "SeenMarks", "SeenStudies"],
            Sources()
                .Where(f => File.ReadAllText(f) is var code && (code.Contains("main.observation") || code.Contains("main.{")))
                .Select(Path.GetFileNameWithoutExtension)
                .Order(StringComparer.Ordinal)
        );
        // The index of a whole study is for those who take out of it what their person may see.
        Assert.Equal(
            ["AgreementStore", "SeenStudies", "Stores", "StudyIndexStore"],
            Sources()
                .Where(f => File.ReadAllText(f).Contains("StudyIndexStore"))
                .Select(Path.GetFileNameWithoutExtension)
                .Order(StringComparer.Ordinal)
        );
    }

    [Fact]
    public void Who_tags_blind_reads_no_row_of_others_nor_what_hangs_on_it_and_nobody_else_reads_less()
    {
        new StudyAccess(w.Workspace).SetMembers(w.Ida, w.Study, [w.Ida.AccountId, w.Tom.AccountId]);
        var blind = new BlindStore(w.Workspace);
        blind.Give(w.Steward, w.Source, [w.Ida.AccountId, w.Tom.AccountId]);
        var own = w.Mark(w.Ida, "standing on the quay", "queue").Id!.Value;
        var toms = w.Mark(w.Tom, "It was off", "late").Id!.Value;
        w.Remark(w.Tom, "quay", "Which one?");
        var insight = w.Insights.Make(w.Steward, w.Study, "They wait", RichText.Empty, [own, toms]).Id!.Value;

        Assert.Equal((1, 0, 1, 1), Rows(w.Workspace.OpenFor(w.Ida.AccountId)));
        Assert.Equal((1, 1, 1, 1), Rows(w.Workspace.OpenFor(w.Tom.AccountId)));
        Assert.Equal((2, 1, 2, 2), Rows(w.Workspace.OpenFor(w.Steward.AccountId)));
        Assert.Equal((0, 0, 0, 0), Rows(w.Workspace.OpenForReaders()));
        // A connection that comes out of the pool afterwards covers nothing.
        Assert.Equal((2, 1, 2, 2), Rows(w.Workspace.Open()));
        Assert.Equal(own, Assert.Single(w.Insights.EvidenceOf([insight], w.Ida.AccountId)[insight]).ObservationId.Value);

        // Who changed a hidden mark last, and how, is not told in a refusal.
        using (var connection = w.Workspace.Open())
        {
            Assert.Equal("It has changed since.", TrailStore.LastChange(connection, w.Ida.AccountId, "observation", toms));
            Assert.Contains("Tom Varley", TrailStore.LastChange(connection, w.Steward.AccountId, "observation", toms));
        }
        Assert.DoesNotContain(w.Trail.Of("insight", insight, w.Ida.AccountId, null), e => e.Label.Contains("Attached"));

        // Of what others mark only what is no mark is told, such as a new tag.
        var marked = NewsOf(() => w.Mark(w.Tom, "Nobody tells", "told"));
        Assert.Equal(["observation", "observation_tag", "tag"], marked.Rows.Keys.Order());
        var told = w.Workspace.WithoutMarks(marked)!;
        Assert.Equal(["tag"], told.Rows.Keys);
        Assert.Empty(told.Sources!);
        Assert.Null(w.Workspace.WithoutMarks(NewsOf(() => w.Mark(w.Tom, "How did you hear"))));
        var corrected = NewsOf(() =>
            w.Corrections.Correct(w.Steward, w.Source, TestWorkspace.Corrected(w, TestWorkspace.Interview + " Yes."), [])
        );
        Assert.Same(corrected, w.Workspace.WithoutMarks(corrected));
        Assert.Equal([w.Ida.AccountId], w.Workspace.BlindTo([w.Source], w.Tom.AccountId));

        blind.Open(w.Steward, w.Source);
        Assert.Equal((4, 1, 3, 2), Rows(w.Workspace.OpenForReaders()));
        Assert.Equal((4, 1, 3, 2), Rows(w.Workspace.OpenFor(w.Ida.AccountId)));
        Assert.Empty(w.Workspace.BlindTo([w.Source], w.Tom.AccountId));
    }

    private static (int Observations, int Notes, int Tags, int Evidence) Rows(Microsoft.Data.Sqlite.SqliteConnection connection)
    {
        using (connection)
            return connection.QuerySingle<(int, int, int, int)>(
                """
                SELECT (SELECT count(*) FROM observation), (SELECT count(*) FROM margin_note), (SELECT count(*) FROM observation_tag),
                  (SELECT count(*) FROM evidence)
                """
            );
    }

    private Changed NewsOf(Action work)
    {
        Changed? news = null;
        void Hear(Committed committed) => news = committed.News.In(committed.StudyId);
        w.Workspace.Committed += Hear;
        work();
        w.Workspace.Committed -= Hear;
        return news!;
    }

    private static IEnumerable<string> Sources()
    {
        var root = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(root, "Vitrine.slnx")))
            root = Path.GetDirectoryName(root)!;
        return Directory
            .EnumerateFiles(Path.Combine(root, "src"), "*.cs", SearchOption.AllDirectories)
            .Where(f => !f.Contains("/obj/") && !f.Contains("/bin/"));
    }

    /// <summary>The members of a file's classes, each from its first line to the next one's.</summary>
    private static IEnumerable<(string Name, string Code)> Members(string file) =>
        Member()
            .Split(File.ReadAllText(file))
            .Skip(1)
            .Select(part => ($"{Path.GetFileNameWithoutExtension(file)}.{NameOfMember().Match(part).Groups[1].Value}", part));

    [GeneratedRegex(@"^    (?=(?:public|private|internal)\b)", RegexOptions.Multiline)]
    private static partial Regex Member();

    [GeneratedRegex(@"(\w+)(?:<\w+>)?(?:\((?!.*\) \w+\()| =| \{|$)", RegexOptions.Multiline)]
    private static partial Regex NameOfMember();

    [GeneratedRegex(@"\bworkspace\.Open\(")]
    private static partial Regex Opens();
}
