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
        var references = file.Descendants("ProjectReference")
            .Select(r => Path.GetFileNameWithoutExtension(r.Attribute("Include")!.Value.Replace('\\', '/')))
            .Order();
        Assert.Equal(allowed, string.Join(' ', references));
    }

    [Fact]
    public void Core_depends_on_no_package_but_to_compare_texts_and_reads_no_file_clock_or_chance()
    {
        Assert.Equal(
            ["DiffPlex"],
            XDocument
                .Load(Path.Combine(Root, "src/Vitrine.Core/Vitrine.Core.csproj"))
                .Descendants("PackageReference")
                .Select(p => p.Attribute("Include")!.Value)
        );
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
        // Accounts, invitations, jobs, what was found out about recordings, reading progress, last looks, pens and splits that are not
        // done are no research data (see the schema); the index follows the trail; the workspace completes a step's own row.
        // What arrives from outside is nobody's work yet; erasing must leave no image; a search by stems has a memory of its own.
        string[] allowed =
        [
            "AccountStore.cs",
            "InvitationStore.cs",
            "ReadingStore.cs",
            "SortingLookStore.cs",
            "PenStore.cs",
            "SplitStore.cs",
            "TagsAside.cs",
            "Bookmarks.cs",
            "SearchIndex.cs",
            "Workspace.cs",
            "Rows.cs",
            "Undo.cs",
            "JobStore.cs",
            "RecordingStore.cs",
            "ArrivalStore.cs",
            "Erasure.cs",
            "ErasedRows.cs",
            "SharedSource.cs",
            "StemSearch.cs",
        ];
        var writers = CSharp("src").Where(f => WritingSql().IsMatch(File.ReadAllText(f))).Select(f => Path.GetFileName(f)!).Except(allowed);
        Assert.Empty(writers);
    }

    [Fact]
    public void No_file_grows_past_what_one_idea_needs()
    {
        var long_ = CSharp("src").Where(f => File.ReadLines(f).Count() > 400).Select(f => Path.GetRelativePath(Root, f));
        Assert.Empty(long_);
    }

    /// <summary>A check mark of the tables in docs/architecture.md is a folder, and a folder a check mark.</summary>
    [Theory]
    [InlineData(0, "src/Vitrine.Core")]
    [InlineData(1, "src/Vitrine.Storage")]
    [InlineData(2, "src/Vitrine.Server")]
    [InlineData(3, "web/src")]
    public void Features_carry_one_name_on_every_floor(int column, string floor)
    {
        var told = File.ReadLines(Path.Combine(Root, "docs/architecture.md"))
            .Where(line => line.StartsWith("| `", StringComparison.Ordinal))
            .Select(line => line.Split('|', StringSplitOptions.TrimEntries))
            .Where(cells => cells.Length == 8 && cells[column + 2] == "✓")
            .Select(cells => cells[1].Trim('`'));
        Assert.Equal(told.Order(StringComparer.Ordinal), Features(Path.Combine(Root, floor)).Order(StringComparer.Ordinal));
    }

    private static IEnumerable<string> Features(string floor) =>
        from folder in Folders(floor)
        from feature in Rooms.Contains(folder) ? Folders(Path.Combine(floor, folder)).Select(f => $"{folder}/{f}") : [folder]
        select feature;

    /// <summary>The folders of a folder that hold code, with a great first letter.</summary>
    private static IEnumerable<string> Folders(string folder)
    {
        var there = Directory.Exists(folder)
            ? folder
            : Path.Combine(Path.GetDirectoryName(folder)!, Path.GetFileName(folder).ToLowerInvariant());
        return Directory
            .EnumerateDirectories(there)
            .Where(f => Directory.EnumerateFiles(f, "*.*", SearchOption.AllDirectories).Any(IsCode))
            .Select(f => Path.GetFileName(f)!)
            .Where(name => name is not ("obj" or "bin"))
            .Select(name => char.ToUpperInvariant(name[0]) + name[1..]);
    }

    private static bool IsCode(string file) => Path.GetExtension(file) is ".cs" or ".ts" or ".tsx" or ".sql";

    [Theory]
    [InlineData("src")]
    [InlineData("bench")]
    public void Lines_have_140_characters_at_most(string folder)
    {
        var long_ = CSharp(folder)
            .SelectMany(f => File.ReadLines(f).Select((line, i) => (line.Length, Where: $"{Path.GetRelativePath(Root, f)}:{i + 1}")))
            .Where(line => line.Length > 140)
            .Select(line => line.Where);
        Assert.Empty(long_);
    }

    [Theory]
    [InlineData("src")]
    [InlineData("tests")]
    public void A_namespace_is_the_files(string folder) => Assert.DoesNotContain(CSharp(folder), f => Block().IsMatch(File.ReadAllText(f)));

    private static IEnumerable<string> CSharp(string folder) =>
        Directory
            .EnumerateFiles(Path.Combine(Root, folder), "*.cs", SearchOption.AllDirectories)
            .Where(f => !f.Contains("/obj/") && !f.Contains("/bin/"));

    private static string FindRoot()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "Vitrine.slnx")))
            folder = Path.GetDirectoryName(folder)!;
        return folder;
    }

    [GeneratedRegex(@"^namespace [\w.]+\s*(\{|$)", RegexOptions.Multiline)]
    private static partial Regex Block();

    [GeneratedRegex(@"\b(INSERT\s+(OR\s+\w+\s+)?INTO|UPDATE\s+[{}\w]+\s+SET|DELETE\s+FROM|REPLACE\s+INTO)\b")]
    private static partial Regex WritingSql();

    [GeneratedRegex(@"\b(DateTime(Offset)?\.(Utc)?Now|new Random|File\.|Directory\.|HttpClient|Guid\.NewGuid)\b")]
    private static partial Regex Impure();
}
