using System.Text.RegularExpressions;
using System.Xml.Linq;

namespace Vitrine.Core.Tests;

/// <summary>The rules of docs/architecture.md: dependencies point one way, and rooms of one floor do not reach into each other.</summary>
public partial class ArchitectureTests
{
    private static readonly string Root = FindRoot();
    private static readonly string[] Rooms = ["Gather", "Mark", "Sort", "Weigh", "Show"];

    [Theory]
    [InlineData("Vitrine.Core", "")]
    [InlineData("Vitrine.Formats", "Vitrine.Core")]
    [InlineData("Vitrine.Storage", "Vitrine.Core")]
    [InlineData("Vitrine.Server", "Vitrine.Formats Vitrine.Storage")]
    public void Projects_refer_only_downwards(string project, string allowed)
    {
        var file = XDocument.Load(Path.Combine(Root, "src", project, project + ".csproj"));
        var references = file.Descendants("ProjectReference").Select(r => Path.GetFileNameWithoutExtension(r.Attribute("Include")!.Value.Replace('\\', '/'))).Order();
        Assert.Equal(allowed, string.Join(' ', references));
    }

    [Fact]
    public void Core_depends_on_no_package_but_to_compare_texts_and_reads_no_file_clock_or_chance()
    {
        Assert.Equal(["DiffPlex"], XDocument.Load(Path.Combine(Root, "src/Vitrine.Core/Vitrine.Core.csproj")).Descendants("PackageReference").Select(p => p.Attribute("Include")!.Value));
        var impure = CSharp("src/Vitrine.Core").Where(f => Impure().IsMatch(File.ReadAllText(f)));
        Assert.Empty(impure);
    }

    [Theory]
    [InlineData("Vitrine.Storage")]
    [InlineData("Vitrine.Server")]
    public void Rooms_of_one_floor_do_not_reach_into_each_other(string floor)
    {
        var reaching =
            from room in Rooms
            where Directory.Exists(Path.Combine(Root, "src", floor, room))
            from file in CSharp($"src/{floor}/{room}")
            from other in Rooms.Where(r => r != room)
            where File.ReadAllText(file).Contains($"{floor}.{other}", StringComparison.Ordinal)
            select $"{Path.GetRelativePath(Root, file)} uses {floor}.{other}";
        Assert.Empty(reaching);
    }

    [Fact]
    public void Only_the_trail_writes_research_data()
    {
        // Accounts, invitations, jobs and reading progress are no research data (see the schema); the index follows the trail; the workspace completes a step's own row.
        // What arrives from outside is nobody's work yet; erasing must leave no image; a search by stems has a memory of its own.
        string[] allowed = ["AccountStore.cs", "InvitationStore.cs", "ReadingStore.cs", "SearchIndex.cs", "Workspace.cs", "Rows.cs", "Undo.cs", "JobStore.cs", "ArrivalStore.cs", "Erasure.cs", "StemSearch.cs"];
        var writers = CSharp("src").Where(f => WritingSql().IsMatch(File.ReadAllText(f))).Select(f => Path.GetFileName(f)!).Except(allowed);
        Assert.Empty(writers);
    }

    [Fact]
    public void No_file_grows_past_what_one_idea_needs()
    {
        var long_ = CSharp("src").Where(f => File.ReadLines(f).Count() > 400).Select(f => Path.GetRelativePath(Root, f));
        Assert.Empty(long_);
    }

    private static IEnumerable<string> CSharp(string folder) =>
        Directory.EnumerateFiles(Path.Combine(Root, folder), "*.cs", SearchOption.AllDirectories).Where(f => !f.Contains("/obj/") && !f.Contains("/bin/"));

    private static string FindRoot()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "Vitrine.slnx"))) folder = Path.GetDirectoryName(folder)!;
        return folder;
    }

    [GeneratedRegex(@"\b(INSERT\s+(OR\s+\w+\s+)?INTO|UPDATE\s+[{}\w]+\s+SET|DELETE\s+FROM|REPLACE\s+INTO)\b")]
    private static partial Regex WritingSql();

    [GeneratedRegex(@"\b(DateTime(Offset)?\.(Utc)?Now|new Random|File\.|Directory\.|HttpClient|Guid\.NewGuid)\b")]
    private static partial Regex Impure();
}
