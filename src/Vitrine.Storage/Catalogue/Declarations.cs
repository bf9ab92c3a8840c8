using static Vitrine.Storage.Catalogue.Declaration;
using static Vitrine.Storage.Catalogue.OnRemoval;

namespace Vitrine.Storage.Catalogue;

/// <summary>What each table is.</summary>
internal sealed partial class WorkspaceCatalogue
{
    private static IEnumerable<Declaration> Declared() =>
        [
            new("study")
            {
                Title = "title",
                Search = new Searched(FoundKind.Study, "title", "purpose", "method"),
                PeoplesWords = ["title", "purpose", "method", "pseudonyms"],
            },
            new("research_question")
            {
                Title = "text",
                StudyBy = Study,
                Links = [new(Study, "study", Goes)],
                PeoplesWords = ["text"],
            },
            new("membership") { StudyBy = Study, Links = [new(Study, "study", Goes), new("account_id", "account")] },
            new("participant")
            {
                Title = "pseudonym",
                StudyBy = Study,
                Links = [new(Study, "study")],
                PeoplesWords = ["code", "pseudonym", "real_name"],
                Plain = ["consent", "agreed_by"],
            },
            new("attribute")
            {
                Title = "name",
                StudyBy = Study,
                Links = [new(Study, "study")],
                PeoplesWords = ["name"],
            },
            new("attribute_value")
            {
                StudyBy = "participant_id",
                Links = [new("participant_id", "participant", Goes), new("attribute_id", "attribute", Goes)],
                PeoplesWords = ["value"],
            },
            new("folder")
            {
                Title = "name",
                StudyBy = Study,
                Links = [new(Study, "study")],
                PeoplesWords = ["name"],
            },
            new("session")
            {
                Title = "title",
                StudyBy = Study,
                Links = [new(Study, "study")],
                PeoplesWords = ["title", "moderator"],
            },
            new("session_participant")
            {
                Ties = new("session_id", "participant_id"),
                StudyBy = "session_id",
                Links = [new("session_id", "session", Goes), new("participant_id", "participant", Goes)],
            },
            new("media")
            {
                Words = "file",
                StudyBy = Study,
                Links = [new(Study, "study")],
                PeoplesWords = ["name"],
            },
            new("source")
            {
                Title = "title",
                StudyBy = Study,
                Links =
                [
                    new(Study, "study"),
                    new("media_id", "media", Owns: true),
                    new("folder_id", "folder", LetsGo),
                    new("session_id", "session", LetsGo),
                    new("still_of_id", "source", Goes),
                    new("in_step_with_id", "source", LetsGo),
                ],
                Search = new Searched(FoundKind.Source, "title"),
                PeoplesWords = ["title", "file_name"],
                Plain = ["written_by"],
            },
            new("source_text")
            {
                Words = "text of the source",
                StudyBy = "source_id",
                Links = [new("source_id", "source", Goes)],
                PeoplesWords = ["text"],
            },
            new("source_original")
            {
                Words = "first text of the source",
                StudyBy = "source_id",
                Links = [new("source_id", "source", Goes)],
                PeoplesWords = ["text"],
            },
            new("source_shape")
            {
                Words = "shape of the source",
                StudyBy = "source_id",
                Links = [new("source_id", "source", Goes)],
                Plain = ["shape"],
            },
            new("source_participant")
            {
                Ties = new("source_id", "participant_id"),
                StudyBy = "source_id",
                Links = [new("source_id", "source", Goes), new("participant_id", "participant", Goes)],
            },
            new("turn")
            {
                StudyBy = "source_id",
                Links = [new("source_id", "source", Goes), new("speaker_id", "speaker", LetsGo)],
                StandsInText = true,
            },
            new("speaker")
            {
                Ties = new("source_id", "participant_id"),
                StudyBy = "source_id",
                Links = [new("source_id", "source", Goes), new("participant_id", "participant", LetsGo)],
                PeoplesWords = ["label"],
            },
            new("label_choice")
            {
                Words = "choice about a name",
                StudyBy = "source_id",
                Links = [new("source_id", "source", Goes)],
                PeoplesWords = ["label"],
            },
            new("mask")
            {
                StudyBy = "source_id",
                Links = [new("source_id", "source", Goes)],
                PeoplesWords = ["replacement"],
                StandsInText = true,
            },
            new("protection")
            {
                Words = "protection of the source",
                StudyBy = "source_id",
                Links = [new("source_id", "source", Goes)],
                Plain = ["covers"],
            },
            new("attachment")
            {
                Title = "title",
                StudyBy = Study,
                Links = [new(Study, "study"), new("media_id", "media", Owns: true), new("survey_id", "survey", LetsGo)],
                PeoplesWords = ["title", "note"],
            },
            new("attachment_tag")
            {
                Ties = new("attachment_id", "tag_id"),
                StudyBy = "attachment_id",
                Links = [new("attachment_id", "attachment", Goes), new("tag_id", "tag", Goes) { Once = ["attachment_id"] }],
            },
            new("survey")
            {
                Title = "name",
                StudyBy = Study,
                Links = [new(Study, "study")],
                PeoplesWords = ["name", "columns", "key_columns", "roles"],
            },
            // The row of a survey stays known, so that the survey's grown table does not bring a removed person back.
            new("survey_row")
            {
                Ties = new("survey_id", "participant_id"),
                StudyBy = "survey_id",
                Links = [new("survey_id", "survey", Goes), new("participant_id", "participant", LetsGo), new("source_id", "source", Goes)],
                PeoplesWords = ["row_key"],
            },
            new("live_notes")
            {
                StudyBy = Study,
                Links = [new(Study, "study"), new("session_id", "session", Goes), new("source_id", "source", LetsGo)],
                Plain = ["begun_at", "ended_at"],
            },
            new("live_line")
            {
                Title = "words",
                Words = "line",
                StudyBy = "live_notes_id",
                Links = [new("live_notes_id", "live_notes", Goes)],
                PeoplesWords = ["words"],
            },
            new("live_line_tag")
            {
                Ties = new("live_line_id", "tag_id"),
                StudyBy = "live_line_id",
                Links = [new("live_line_id", "live_line", Goes), new("tag_id", "tag", Goes) { Once = ["live_line_id"] }],
            },
            new("watch")
            {
                Title = "name",
                StudyBy = Study,
                Links = [new(Study, "study")],
                PeoplesWords = ["name", "rule"],
            },
            new("routing")
            {
                Words = "feedback",
                StudyBy = Study,
                Links = [new(Study, "study"), new("feedback_id", "feedback"), new("source_id", "source", LetsGo)],
                PeoplesWords = ["watch_name", "met"],
            },
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
            new("let_stand")
            {
                Words = "words that stand",
                StudyBy = Study,
                Links = [new(Study, "study", Goes)],
                PeoplesWords = ["words"],
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
                Links = [new("theme_id", "theme", Goes), new("tag_id", "tag", Goes) { Once = ["theme_id"] }],
            },
            new("theme_observation")
            {
                Ties = new("theme_id", "observation_id"),
                StudyBy = "theme_id",
                Links = [new("theme_id", "theme", Goes), new("observation_id", "observation", Goes)],
                Plain = ["stance"],
            },
            new("insight")
            {
                Title = "headline",
                StudyBy = Study,
                Links = [new(Study, "study")],
                Search = new Searched(FoundKind.Insight, "headline", "story"),
                PeoplesWords = ["headline", "story"],
            },
            new("evidence")
            {
                Ties = new("insight_id", "observation_id"),
                StudyBy = "insight_id",
                Links = [new("insight_id", "insight", Goes), new("observation_id", "observation", Goes)],
                Plain = ["stance"],
            },
            new("insight_attachment")
            {
                Ties = new("insight_id", "attachment_id"),
                StudyBy = "insight_id",
                Links = [new("insight_id", "insight", Goes), new("attachment_id", "attachment", Goes)],
            },
            new("not_asked")
            {
                StudyBy = "participant_id",
                Links =
                [
                    new("participant_id", "participant", Goes),
                    new("tag_id", "tag", Goes) { Once = ["participant_id"] },
                    new("theme_id", "theme", Goes),
                    new("insight_id", "insight", Goes),
                ],
            },
            new("exhibit")
            {
                Title = "question",
                Search = new Searched(FoundKind.Exhibit, "question", "summary"),
                PeoplesWords = ["question", "summary"],
            },
            new("exhibit_insight")
            {
                Ties = new("exhibit_id", "insight_id"),
                Links = [new("exhibit_id", "exhibit", Goes), new("insight_id", "insight", Goes)],
            },
            new("exhibit_link")
            {
                Words = "link",
                Links = [new("exhibit_id", "exhibit", Goes)],
                Plain = ["revoked_at"],
            },
            .. Aside(),
        ];
}
