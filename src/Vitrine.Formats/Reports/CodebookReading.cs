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
        Scale,
        Colour,
        Bundles,
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
        ["scale"] = Column.Scale,
        ["colour"] = Column.Colour,
        ["color"] = Column.Colour,
        ["in bundles"] = Column.Bundles,
        ["bundles"] = Column.Bundles,
        ["id"] = Column.Key,
    };

    /// <summary>
    /// The lines of a table. Its first row names the columns when one of them is known (Tag, Under, Definition, What it is not, Also
    /// called, Scale, State, In bundles, Colour, Id); else the first column is the name, the second the definition. A name may have those
    /// above it: a / b.
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
                        return at >= 0 && at < row.Length ? CodebookTables.Harmed((row[at] ?? "").Trim()) : "";
                    }
                    var names = WrittenNames.ReadPath(Cell(Column.Name));
                    return new CodebookLine(
                        names.Count > 0 ? names[^1] : "",
                        [.. WrittenNames.ReadPath(Cell(Column.Under)), .. names.SkipLast(1)],
                        Cell(Column.Definition),
                        Cell(Column.IsNot),
                        WrittenNames.ReadList(Cell(Column.Aliases)),
                        Cell(Column.State).ToLowerInvariant() switch
                        {
                            "settled" => true,
                            "draft" => false,
                            _ => null,
                        },
                        Guid.TryParse(Cell(Column.Key), out var key) ? key : null,
                        ScaleWords.Read(Cell(Column.Scale)),
                        Cell(Column.Colour),
                        WrittenNames.ReadList(Cell(Column.Bundles))
                    );
                }),
        ];
    }

    /// <summary>
    /// The codes of a codebook of REFI-QDA 1.0, each before those that stand under it, then its sets; none for one that is empty.
    /// </summary>
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
        if (root.Name.LocalName != "CodeBook")
            throw new UnreadableException("There is no codebook in this file. Add the .qdc file that the other program calls a codebook.");
        var sets = root.Elements().Where(e => e.Name.LocalName == "Sets").Elements().Where(e => e.Name.LocalName == "Set").ToList();
        var bundles = sets.SelectMany(set =>
                set.Elements()
                    .Where(e => e.Name.LocalName == "MemberCode" && Guid.TryParse((string?)e.Attribute("guid"), out _))
                    .Select(e => (Code: Guid.Parse((string)e.Attribute("guid")!), Name: (string?)set.Attribute("name") ?? ""))
            )
            .ToLookup(m => m.Code, m => m.Name);
        var lines = new List<CodebookLine>();
        var open = new Stack<(XElement Code, IReadOnlyList<string> Above)>();
        if (codes is not null)
            Push(codes, []);
        while (open.TryPop(out var next))
        {
            var name = (string?)next.Code.Attribute("name") ?? "";
            var described = next.Code.Elements().FirstOrDefault(e => e.Name.LocalName == "Description")?.Value;
            var said = CodebookDescription.Read(described ?? "");
            Guid? key = Guid.TryParse((string?)next.Code.Attribute("guid"), out var guid) ? guid : null;
            lines.Add(
                new CodebookLine(
                    name,
                    next.Above,
                    said.Definition,
                    said.IsNot,
                    said.Aliases,
                    said.Settled,
                    key,
                    said.Scale,
                    (string?)next.Code.Attribute("color"),
                    key is { } known ? [.. bundles[known]] : [],
                    IsCodable: (string?)next.Code.Attribute("isCodable") is not ("false" or "0"),
                    HasEmptyDescription: described is ""
                )
            );
            Push(next.Code, [.. next.Above, name]);
        }
        lines.AddRange(
            sets.Select(set => new CodebookLine(
                (string?)set.Attribute("name") ?? "",
                [],
                set.Elements().FirstOrDefault(e => e.Name.LocalName == "Description")?.Value.Trim() ?? "",
                "",
                [],
                null,
                Guid.TryParse((string?)set.Attribute("guid"), out var id) ? id : null,
                IsBundle: true
            ))
        );
        return lines;

        void Push(XElement parent, IReadOnlyList<string> above)
        {
            foreach (var code in parent.Elements().Where(e => e.Name.LocalName == "Code").Reverse())
                open.Push((code, above));
        }
    }
}
