using static Vitrine.Storage.Catalogue.Declaration;
using static Vitrine.Storage.Catalogue.OnRemoval;

namespace Vitrine.Storage.Catalogue;

/// <summary>What each table is of what is marked.</summary>
internal sealed partial class WorkspaceCatalogue
{
    private static IEnumerable<Declaration> Mark() =>
        [
            new("observation")
            {
                Title = ByItsWords,
                StudyBy = Study,
                Links = [new(Study, "study"), new("source_id", "source", Goes)],
                Search = new Searched(FoundKind.Observation, null, "note"),
                PeoplesWords = ["note"],
                Plain = ["anchor", "sentiment", "outline"],
                StandsInText = true,
            },
            new("observation_tag")
            {
                Ties = new("observation_id", "tag_id", Holds: true),
                StudyBy = "observation_id",
                Links = [new("observation_id", "observation", Goes), new("tag_id", "tag", Goes) { Once = ["observation_id"] }],
            },
            new("tag_search")
            {
                Title = "typed",
                Words = "search",
                StudyBy = Study,
                Links = [new(Study, "study", Goes), new("tag_id", "tag", Goes)],
                PeoplesWords = ["typed"],
                Plain = ["unit", "gone_through_at"],
            },
            new("refused_passage")
            {
                StudyBy = Study,
                Links =
                [
                    new(Study, "study", Goes),
                    new("source_id", "source", Goes),
                    new("tag_id", "tag", Goes) { Once = ["source_id", "words_hash"] },
                ],
                Plain = ["words_hash"],
            },
            new("blind_tagging")
            {
                StudyBy = Study,
                Links = [new(Study, "study", Goes), new("source_id", "source", Goes)],
                Plain = ["opened_at"],
            },
            new("blind_tagger")
            {
                StudyBy = "blind_tagging_id",
                Links = [new("blind_tagging_id", "blind_tagging", Goes), new("account_id", "account")],
                Plain = ["done_at"],
            },
            new("correction_look")
            {
                Words = "observation to look at",
                StudyBy = "source_id",
                Links = [new("source_id", "source", Goes), new("observation_id", "observation", Goes)],
                PeoplesWords = ["old_words"],
                Plain = ["fate"],
            },
            new("margin_note")
            {
                Title = "words",
                StudyBy = Study,
                Links = [new(Study, "study"), new("source_id", "source", Goes)],
                Search = new Searched(FoundKind.MarginNote, null, "words"),
                PeoplesWords = ["words"],
                Plain = ["anchor", "outline"],
                StandsInText = true,
            },
        ];
}
