using static Vitrine.Storage.Catalogue.OnRemoval;

namespace Vitrine.Storage.Catalogue;

/// <summary>What each table is of what is weighed.</summary>
internal sealed partial class WorkspaceCatalogue
{
    private static IEnumerable<Declaration> Weigh() =>
        [
            new("saved_filter")
            {
                Title = "name",
                Words = "filter",
                StudyBy = Study,
                Links = [new(Study, "study", Goes)],
                Inside =
                [
                    new("conditions", "tagIds", "tag"),
                    new("conditions", "participantIds", "participant"),
                    new("conditions", "sourceIds", "source"),
                    new("conditions", "sessionIds", "session"),
                ],
                PeoplesWords = ["name", "conditions"],
            },
            new("settlement")
            {
                StudyBy = Study,
                Links =
                [
                    new(Study, "study", Goes),
                    new("source_id", "source", Goes),
                    new("first_account_id", "account"),
                    new("second_account_id", "account"),
                ],
                Plain = ["outcome"],
            },
            new("settled_mark")
            {
                StudyBy = "settlement_id",
                Links =
                [
                    new("settlement_id", "settlement", Goes),
                    new("observation_id", "observation", Goes),
                    new("tag_id", "tag", Goes) { Once = ["settlement_id", "observation_id"] },
                    new("given_by", "account"),
                ],
                Plain = ["given_at"],
            },
            new("not_asked")
            {
                StudyBy = "participant_id",
                Links =
                [
                    new("participant_id", "participant", Goes),
                    new("tag_id", "tag", Goes) { Once = ["participant_id"] },
                    new("theme_id", "theme", Goes) { Once = ["participant_id"] },
                    new("insight_id", "insight", Goes),
                ],
            },
        ];
}
