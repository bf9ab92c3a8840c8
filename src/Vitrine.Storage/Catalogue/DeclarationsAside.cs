using static Vitrine.Storage.Catalogue.OnRemoval;

namespace Vitrine.Storage.Catalogue;

/// <summary>What each table is that is written outside the trail.</summary>
internal sealed partial class WorkspaceCatalogue
{
    private static IEnumerable<Declaration> Aside() =>
        [
            // No research data: who is here, the trail itself, bookmarks, work in progress, post that came in, and that something was
            // erased.
            new("account") { IsTrailed = false, Plain = ["name", "email", "role", "password_hash", "stamp", "closed_at"] },
            new("invitation")
            {
                IsTrailed = false,
                Links = [new("account_id", "account")],
                Plain = ["name", "email", "role", "studies", "expires_at", "revoked_at"],
            },
            new("action")
            {
                IsTrailed = false,
                Links = [new("account_id", "account"), new("reverses", "action")],
                PeoplesWords = ["label"],
                Plain = ["at", "batch"],
            },
            new("change")
            {
                IsTrailed = false,
                Links = [new("action_id", "action", Goes)],
                PeoplesWords = ["before", "after"],
                Plain = ["table_name"],
            },
            new("reading")
            {
                IsTrailed = false,
                Links = [new("account_id", "account"), new("source_id", "source")],
                Plain = ["read_at"],
            },
            new("sorting_look")
            {
                IsTrailed = false,
                StudyBy = Study,
                Links = [new("account_id", "account"), new(Study, "study")],
                Plain = ["looked_at"],
            },
            new("pen")
            {
                IsTrailed = false,
                StudyBy = Study,
                Links =
                [
                    new("account_id", "account"),
                    new(Study, "study"),
                    new("tag_id", "tag", Goes) { Once = ["account_id", "study_id"] },
                ],
            },
            new("tag_split")
            {
                IsTrailed = false,
                StudyBy = Study,
                Links = [new(Study, "study"), new("tag_id", "tag", Goes) { FollowsMerge = false }],
            },
            new("split_tray")
            {
                IsTrailed = false,
                StudyBy = "tag_split_id",
                Links = [new("tag_split_id", "tag_split", Goes), new("tag_id", "tag", Goes) { Once = ["tag_split_id"] }],
                PeoplesWords = ["name"],
            },
            new("split_decision")
            {
                IsTrailed = false,
                StudyBy = "tag_split_id",
                Links = [new("tag_split_id", "tag_split", Goes), new("observation_id", "observation", Goes)],
                Plain = ["outcome", "trays"],
            },
            new("job")
            {
                IsTrailed = false,
                StudyBy = Study,
                Links = [new(Study, "study"), new("account_id", "account")],
                PeoplesWords = ["name", "given", "said"],
                Plain = ["modified"],
            },
            new("recording") { IsTrailed = false, Plain = ["hash", "copy_type"] },
            new("channel") { IsTrailed = false, PeoplesWords = ["name"] },
            new("feedback")
            {
                IsTrailed = false,
                Links = [new("channel_id", "channel")],
                PeoplesWords = ["outer_id", "sender", "title", "text"],
                Plain = ["written_at"],
            },
            new("erasure")
            {
                IsTrailed = false,
                StudyBy = Study,
                Links = [new(Study, "study"), new("account_id", "account")],
                Plain = ["at", "files"],
            },
        ];
}
