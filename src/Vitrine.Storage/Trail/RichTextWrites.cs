using Dapper;
using Vitrine.Core.RichTexts;
using Vitrine.Storage.Catalogue;

namespace Vitrine.Storage.Trail;

/// <summary>How a writing writes texts with form: what they refer to stands in rows beside them.</summary>
public sealed partial class Writing
{
    private const string References = "text_reference";

    /// <summary>
    /// Writes a text that the person saw as <paramref name="was"/>. A text that became what they wrote in the meantime is no quarrel; any
    /// other is refused, with the text that stands there.
    /// </summary>
    /// <param name="column">One of the columns that the catalogue has as texts with form.</param>
    /// <exception cref="Refusal">
    /// The row is gone, somebody has written another text since, or the text refers to something new that is not there.
    /// </exception>
    public void Rewrite(string table, long id, string column, RichText was, RichText text)
    {
        var row = Sql.Rows.Find(Connection, table, id) ?? throw Refusal.Missing(Words(table));
        Belongs(table, row);
        var there = RichTextJson.FromStored((string)row[column]!);
        var stored = RichTextJson.Stored(there);
        if (stored != RichTextJson.Stored(was) && stored != RichTextJson.Stored(text))
            throw TwoVersions(table, id, column, stored);
        if (stored != RichTextJson.Stored(text))
            Update(table, id, new Dictionary<string, object?> { [column] = RichTextJson.Stored(text) });
        Refer(table, id, [.. there.References], text);
    }

    /// <summary>Keeps the rows of what a new row's text refers to.</summary>
    /// <exception cref="Refusal">It refers to something that is not there.</exception>
    public void Refer(string table, long id, RichText text) => Refer(table, id, [], text);

    private void Refer(string table, long id, IReadOnlyCollection<ThingRef> before, RichText text)
    {
        var holder = Sql.Rows.Find(Connection, table, id)!;
        // A thing may hold several texts.
        var now = catalogue[table]
            .RichTexts.SelectMany(c => RichTextJson.FromStored((string)holder[c]!).References)
            .Concat(text.References)
            .ToHashSet();
        var rows = Connection
            .Query<(long Id, string Kind, long Thing)>(
                $"SELECT id, thing_kind, thing_id FROM {References} WHERE holder_kind = @table AND holder_id = @id",
                new { table, id }
            )
            .ToDictionary(r => new ThingRef(Thing.KindOf(r.Kind), r.Thing), r => r.Id);
        foreach (var (gone, row) in rows.Where(r => !now.Contains(r.Key)))
            Delete(References, row);
        foreach (var added in now.Where(r => !rows.ContainsKey(r)))
        {
            // What was removed stays in the text in which it stood, and comes back with its undo.
            if (
                Sql.Rows.Find(Connection, Thing.Table(added.Kind), added.Id) is not { } thing
                || SeenMarks.Hides(Connection, Actor.AccountId, Thing.Table(added.Kind), thing)
            )
            {
                if (!before.Contains(added))
                    throw Refusal.Missing(Words(Thing.Table(added.Kind)));
                continue;
            }
            Insert(
                References,
                new
                {
                    studyId = holder.GetValueOrDefault("study_id"),
                    holderKind = table,
                    holderId = id,
                    thingKind = Thing.Table(added.Kind),
                    thingId = added.Id,
                }
            );
        }
    }

    /// <summary>Puts another thing in the place of one in every text that refers to it.</summary>
    internal void ReplaceInTexts(string thing, long gone, long by)
    {
        var (from, to) = (new ThingRef(Thing.KindOf(thing), gone), new ThingRef(Thing.KindOf(thing), by));
        foreach (
            var (table, id) in Connection
                .Query<(string, long)>(
                    $"SELECT holder_kind, holder_id FROM {References} WHERE thing_kind = @thing AND thing_id = @gone ORDER BY id",
                    new { thing, gone }
                )
                .ToList()
        )
        {
            var row = Sql.Rows.Find(Connection, table, id)!;
            Update(
                table,
                id,
                catalogue[table]
                    .RichTexts.ToDictionary(
                        c => c,
                        c => (object?)RichTextJson.Stored(RichTextJson.FromStored((string)row[c]!).Replace(from, to))
                    )
            );
        }
    }
}
