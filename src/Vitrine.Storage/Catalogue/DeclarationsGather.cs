using static Vitrine.Storage.Catalogue.OnRemoval;

namespace Vitrine.Storage.Catalogue;

/// <summary>What each table is of what is gathered.</summary>
internal sealed partial class WorkspaceCatalogue
{
    private static IEnumerable<Declaration> Gather() =>
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
        ];
}
