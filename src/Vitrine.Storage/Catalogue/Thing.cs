namespace Vitrine.Storage.Catalogue;

/// <summary>
/// What a request can name by its id: the things of the catalogue, each by its table. Those that operations are about have a name here.
/// </summary>
public static class Thing
{
    public const string Source = "source";
    public const string Observation = "observation";
    public const string MarginNote = "margin_note";
    public const string Theme = "theme";
    public const string Insight = "insight";
    public const string Suggestion = "suggestion";
    public const string SuggestedGroup = "suggested_group";
    public const string Tag = "tag";
    public const string Exhibit = "exhibit";
    public const string Participant = "participant";
    public const string Session = "session";
    public const string Attachment = "attachment";
    public const string Attribute = "attribute";
    public const string Folder = "folder";
    public const string LiveNotes = "live_notes";
    public const string LiveLine = "live_line";
    public const string Mask = "mask";
    public const string Routing = "routing";
    public const string Speaker = "speaker";
    public const string Watch = "watch";

    /// <summary>The thing that is called so in the API: <c>liveNotes</c> for <c>live_notes</c>; null when there is none.</summary>
    public static string? Named(string name) => WorkspaceCatalogue.Own.Find(Table(name)) is { IsTrailed: true } found ? found.Table : null;

    /// <summary>What one is called in a sentence.</summary>
    public static string InWords(string thing) => WorkspaceCatalogue.Own[thing].Words;

    /// <summary>The tables in which things and what belongs to them stand, by name.</summary>
    public static IEnumerable<string> Tables => WorkspaceCatalogue.Own.Tables.Select(t => t.Table).Order(StringComparer.Ordinal);

    /// <summary>The table of a kind of thing.</summary>
    public static string Table(ThingKind kind) => Table(kind.ToString());

    /// <summary>The kind whose things stand in a table.</summary>
    /// <exception cref="ArgumentException">No things stand in it.</exception>
    public static ThingKind KindOf(string table) => Enum.Parse<ThingKind>(table.Replace("_", ""), ignoreCase: true);

    private static string Table(string name) =>
        string.Concat(name.Select((c, i) => char.IsUpper(c) ? (i > 0 ? "_" : "") + char.ToLowerInvariant(c) : $"{c}"));
}
