namespace Vitrine.Storage.Sql;

/// <summary>How a value of an enumeration is written in the database: as in the API, with a small first letter.</summary>
internal static class StoredName
{
    public static string Of(Enum value)
    {
        var name = value.ToString();
        return char.ToLowerInvariant(name[0]) + name[1..];
    }
}
