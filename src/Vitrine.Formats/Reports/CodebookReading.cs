using System.Xml;
using System.Xml.Linq;
using Vitrine.Core.Sort.TagSet;

namespace Vitrine.Formats.Reports;

/// <summary>Reads a codebook: a table with a line for each tag, or the open exchange format.</summary>
public static class CodebookReading
{
    private enum Column
    {
        Name,
        Under,
        Definition,
        IsNot,
        Aliases,
        State,
        Key,
    }

    private static readonly Dictionary<string, Column> Heads = new(StringComparer.OrdinalIgnoreCase)
    {
        ["tag"] = Column.Name,
        ["name"] = Column.Name,
        ["code"] = Column.Name,
        ["stands under"] = Column.Under,
        ["under"] = Column.Under,
        ["parent"] = Column.Under,
        ["family"] = Column.Under,
        ["definition"] = Column.Definition,
        ["description"] = Column.Definition,
        ["what it is"] = Column.Definition,
        ["what it is not"] = Column.IsNot,
        ["not"] = Column.IsNot,
        ["also called"] = Column.Aliases,
        ["aliases"] = Column.Aliases,
        ["state"] = Column.State,
        ["id"] = Column.Key,
    };

    /// <summary>
    /// The lines of a table. Its first row names the columns when one of them is known (Tag, Stands under, Definition, What it is not, Also
    /// called, State, Id); else the first column is the name, the second the definition. A name may have those above it: a / b.
    /// </summary>
    public static IReadOnlyList<CodebookLine> Table(IReadOnlyList<string[]> rows)
    {
        if (rows.Count == 0)
            return [];
        var heads = rows[0].Select(h => Heads.TryGetValue(h.Trim(), out var column) ? column : (Column?)null).ToList();
        var named = heads.Contains(Column.Name);
        if (!named)
            heads = [Column.Name, Column.Definition];
        return
        [
            .. rows.Skip(named ? 1 : 0)
                .Where(row => row.Any(cell => !string.IsNullOrWhiteSpace(cell)))
                .Select(row =>
                {
                    string Cell(Column column)
                    {
                        var at = heads.IndexOf(column);
                        return at >= 0 && at < row.Length ? Harmed((row[at] ?? "").Trim()) : "";
                    }
                    var names = Path(Cell(Column.Name));
                    return new CodebookLine(
                        names.Count > 0 ? names[^1] : "",
                        [.. Path(Cell(Column.Under)), .. names.SkipLast(1)],
                        Cell(Column.Definition),
                        Cell(Column.IsNot),
                        [.. Cell(Column.Aliases).Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)],
                        Cell(Column.State).ToLowerInvariant() switch
                        {
                            "settled" => true,
                            "draft" => false,
                            _ => null,
                        },
                        Guid.TryParse(Cell(Column.Key), out var key) ? key : null
                    );
                }),
        ];
    }

    /// <summary>The codes of a codebook of REFI-QDA 1.0, each before those that stand under it.</summary>
    /// <exception cref="UnreadableException">It is none, or broken.</exception>
    public static IReadOnlyList<CodebookLine> Exchange(Stream file)
    {
        XElement root;
        try
        {
            using var xml = XmlReader.Create(
                file,
                new XmlReaderSettings
                {
                    DtdProcessing = DtdProcessing.Prohibit,
                    XmlResolver = null,
                    MaxCharactersInDocument = 50_000_000,
                }
            );
            root = XDocument.Load(xml).Root!;
        }
        catch (XmlException)
        {
            throw new UnreadableException(
                "This is no codebook in the open exchange format, or it is broken. Save it anew, and add it again."
            );
        }
        var codes = root.Elements().FirstOrDefault(e => e.Name.LocalName == "Codes");
        if (root.Name.LocalName != "CodeBook" || codes is null)
            throw new UnreadableException("There is no codebook in this file. Add the .qdc file that the other program calls a codebook.");
        var lines = new List<CodebookLine>();
        var open = new Stack<(XElement Code, IReadOnlyList<string> Above)>();
        Push(codes, []);
        while (open.TryPop(out var next))
        {
            var name = (string?)next.Code.Attribute("name") ?? "";
            var described = (next.Code.Elements().FirstOrDefault(e => e.Name.LocalName == "Description")?.Value ?? "").Split('\n');
            string Part(string begins) =>
                described.FirstOrDefault(l => l.StartsWith(begins, StringComparison.Ordinal)) is { } line
                    ? line[begins.Length..].Trim()
                    : "";
            lines.Add(
                new CodebookLine(
                    name,
                    next.Above,
                    string.Join(
                            "\n",
                            described.Where(l =>
                                !l.StartsWith(Not, StringComparison.Ordinal) && !l.StartsWith(Also, StringComparison.Ordinal)
                            )
                        )
                        .Trim(),
                    Part(Not),
                    [.. Part(Also).Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)],
                    null,
                    Guid.TryParse((string?)next.Code.Attribute("guid"), out var key) ? key : null
                )
            );
            Push(next.Code, [.. next.Above, name]);
        }
        return lines;

        void Push(XElement parent, IReadOnlyList<string> above)
        {
            foreach (var code in parent.Elements().Where(e => e.Name.LocalName == "Code").Reverse())
                open.Push((code, above));
        }
    }

    /// <summary>Begin the lines of a description that say what a tag is not, and what it is also called.</summary>
    internal const string Not = "Not: ";
    internal const string Also = "Also called: ";

    private static List<string> Path(string cell) =>
        [.. cell.Split(" / ", StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)];

    // What was made harmless for spreadsheets when it went out.
    private static string Harmed(string cell) => cell.Length > 1 && cell[0] == '\'' && "=+-@\t\r".Contains(cell[1]) ? cell[1..] : cell;
}
