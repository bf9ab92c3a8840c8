using static Vitrine.Storage.Catalogue.OnRemoval;

namespace Vitrine.Storage.Catalogue;

/// <summary>What each table is of what is shown.</summary>
internal sealed partial class WorkspaceCatalogue
{
    private static IEnumerable<Declaration> Show() =>
        [
            new("let_stand")
            {
                Words = "words that stand",
                StudyBy = Study,
                Links = [new(Study, "study", Goes)],
                PeoplesWords = ["words"],
            },
            new("insight")
            {
                Title = "headline",
                StudyBy = Study,
                Links = [new(Study, "study")],
                Search = new Searched(FoundKind.Insight, "headline", "story"),
                PeoplesWords = ["headline", "story"],
                RichTexts = ["story"],
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
            new("text_reference")
            {
                Words = "reference of a text",
                IsDerived = true,
                StudyBy = Study,
                Links =
                [
                    new(Study, "study", Goes),
                    Link.ToAnything("holder", Goes),
                    Link.ToAnything("thing", Goes) with
                    {
                        Once = ["holder_kind", "holder_id"],
                    },
                ],
                Ties = new("holder_id", "thing_id"),
                Plain = ["holder_kind", "thing_kind"],
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
        ];
}
