using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Quotes;

/// <summary>What belongs to an observation's rows, for every write that makes or removes one.</summary>
internal static class ObservationRows
{
    /// <summary>The tables of what hangs on an observation, each by its observation_id.</summary>
    public static readonly string[] Tables = ["observation_tag", "theme_observation", "evidence", "correction_look"];

    /// <summary>Takes an observation away with its tags and its places in themes and insights.</summary>
    public static void Remove(Writing writing, long id)
    {
        foreach (var table in Tables) writing.DeleteAll(table, "observation_id", id);
        writing.Delete("observation", id);
    }
}
