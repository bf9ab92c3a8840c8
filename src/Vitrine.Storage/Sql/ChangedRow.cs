namespace Vitrine.Storage.Sql;

/// <summary>A change of a row as it is put back.</summary>
/// <param name="Id">The change.</param>
/// <param name="From">The row as it stands; null where there is none.</param>
/// <param name="To">The row as it is from then on; null where there is none.</param>
internal sealed record ChangedRow(long Id, long RowId, string? From, string? To);
