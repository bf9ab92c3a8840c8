using static Vitrine.Storage.Catalogue.OnRemoval;

namespace Vitrine.Storage.Catalogue;

/// <summary>What each table is of tags and themes.</summary>
internal sealed partial class WorkspaceCatalogue
{
    private static IEnumerable<Declaration> Sort() =>
        [
            new("tag")
            {
                Title = "name",
                StudyBy = Study,
                Links = [new(Study, "study"), new("parent_id", "tag", MovesUp)],
                Search = new Searched(FoundKind.Tag, "name", "definition", "is_not", "aliases"),
                PeoplesWords = ["name", "name_key", "definition", "is_not", "scale", "aliases"],
                Plain = ["split_into", "outside"],
            },
            new("bundle_tag")
            {
                Ties = new("bundle_id", "tag_id", Held: true, As: "bundle"),
                Words = "tag of a bundle",
                StudyBy = "bundle_id",
                Links = [new("bundle_id", "tag", Goes) { Once = ["tag_id"] }, new("tag_id", "tag", Goes) { Once = ["bundle_id"] }],
            },
            new("tag_apart")
            {
                Words = "pair of tags",
                StudyBy = "tag_id",
                Links = [new("tag_id", "tag", Goes) { FollowsMerge = false }, new("other_tag_id", "tag", Goes) { FollowsMerge = false }],
            },
            new("tag_proposal")
            {
                Title = "name",
                Words = "proposal of a tag",
                StudyBy = Study,
                Links = [new(Study, "study", Goes), new("tag_id", "tag", Goes), new("answered_by", "account")],
                PeoplesWords = ["name", "words", "answer"],
                Plain = ["outcome"],
            },
            new("theme")
            {
                Title = "title",
                StudyBy = Study,
                Links = [new(Study, "study"), new("parent_id", "theme", MovesUp)],
                Search = new Searched(FoundKind.Theme, "title", "description"),
                PeoplesWords = ["title", "description"],
            },
            new("theme_tag")
            {
                Ties = new("theme_id", "tag_id", Live: true),
                StudyBy = "theme_id",
                Links = [new("theme_id", "theme", Goes) { Once = ["tag_id"] }, new("tag_id", "tag", Goes) { Once = ["theme_id"] }],
            },
            new("theme_observation")
            {
                Ties = new("theme_id", "observation_id"),
                StudyBy = "theme_id",
                Links = [new("theme_id", "theme", Goes) { Once = ["observation_id"] }, new("observation_id", "observation", Goes)],
                Plain = ["stance"],
            },
            new("theme_question")
            {
                Ties = new("theme_id", "research_question_id"),
                Words = "question of a theme",
                StudyBy = "theme_id",
                Links =
                [
                    new("theme_id", "theme", Goes) { Once = ["research_question_id"] },
                    new("research_question_id", "research_question", Goes),
                ],
            },
            new("suggestion")
            {
                StudyBy = Study,
                // What was suggested for a theme is of use as long as that is there.
                Links = [new(Study, "study", Goes), new("theme_id", "theme", Goes)],
                Plain = ["kind"],
            },
            new("suggested_group")
            {
                Words = "suggested group",
                StudyBy = "suggestion_id",
                Links = [new("suggestion_id", "suggestion", Goes), new("theme_id", "theme", LetsGo)],
                PeoplesWords = ["title"],
            },
            new("suggested_item")
            {
                Words = "suggested item",
                StudyBy = "suggestion_id",
                Links =
                [
                    new("suggestion_id", "suggestion", Goes),
                    new("suggested_group_id", "suggested_group", LetsGo),
                    new("tag_id", "tag", Goes) { Once = ["suggestion_id"] },
                    new("observation_id", "observation", Goes) { Once = ["suggestion_id"] },
                ],
                Plain = ["pile", "answer"],
            },
            new("left_out")
            {
                Words = "observation that was left out",
                StudyBy = "observation_id",
                Links = [new("observation_id", "observation", Goes)],
            },
        ];
}
