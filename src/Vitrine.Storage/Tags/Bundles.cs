using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tags;

/// <summary>What statements say of bundles.</summary>
internal static class Bundles
{
    /// <summary>The tags that the bundle @id holds, and all under them, as a recursive table <c>within (tag_id)</c>.</summary>
    public const string Within = """
        within (tag_id) AS (SELECT tag_id FROM bundle_tag WHERE bundle_id = @id
          UNION SELECT t.id FROM tag t JOIN within w ON t.parent_id = w.tag_id)
        """;

    /// <summary>
    /// Observations, as <c>o</c>, of the studies that @id reaches: a study's bundle holds shared tags too, and counts them in that study
    /// alone.
    /// </summary>
    public const string InItsStudy = """
        (SELECT study_id FROM tag WHERE id = @id) IS NULL OR o.study_id = (SELECT study_id FROM tag WHERE id = @id)
        """;

    public static Refusal StandsAlone() =>
        Refusal.Because("A bundle is under no tag and carries no scale: its tags do. Change those.", "parentId");
}
