using System.Globalization;
using System.Text;
using Vitrine.Core.Counting;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Formats.Reports;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Gather.Participants;
using Vitrine.Storage.Gather.Studies;
using Vitrine.Storage.Show.Publication;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Weigh.Evidence;

namespace Vitrine.Server.Sort.TagSet;

internal enum CodebookFormat
{
    Docx,
    Xlsx,
    Csv,
    Md,
    Qdc,
}

internal static class CodebookEndpoints
{
    /// <summary>Example quotes of a tag that go out.</summary>
    private const int MostExamples = 3;

    public static void MapCodebook(this RouteGroupBuilder api) =>
        api.MapGroup("/studies/{studyId:long}")
            .WithTags("Tag set")
            .MapGet(
                "/codebook",
                (
                    StudyId studyId,
                    string format,
                    bool? quotes,
                    SignedIn me,
                    StudyStore studies,
                    TagStore tags,
                    TagUseStore uses,
                    SeenStudies indexes,
                    PublicationStore publication,
                    ParticipantStore participants,
                    NotAskedStore notAsked,
                    TimeProvider clock
                ) =>
                {
                    var kind = Validate.Choice<CodebookFormat>(format, nameof(format));
                    // It is handed out: what it tells passes the gate, as everything does that leaves.
                    var (gate, passages) = publication.GateFor(studyId);
                    var gone = participants.In(studyId).People.Where(p => p.Consent == Consent.Withdrawn).Select(p => p.Id).ToHashSet();
                    var seen = indexes.Load(studyId, me.Id);
                    var index = seen.Only(
                        o => passages.TryGetValue(seen.Observations[o], out var passage) && gate.Counts(passage),
                        [.. seen.InScope.Select((there, p) => there && !gone.Contains(seen.People[p]))]
                    );
                    var all = tags.For(studyId);
                    var keys = tags.Keys(studyId);
                    var byTag = Tally.ByTag(index.Marks, rollUp: true);
                    var silent = notAsked.In(studyId, AskedThing.Tag);
                    var written = new List<CodebookTag>();
                    Write(null, []);
                    var book = new Codebook(
                        gate.Written(studies.Get(studyId).Line.Title),
                        DateOnly.FromDateTime(clock.GetUtcNow().Date),
                        written
                    );
                    var file = new MemoryStream();
                    switch (kind)
                    {
                        case CodebookFormat.Docx:
                            CodebookDocx.Write(book, file);
                            break;
                        case CodebookFormat.Xlsx:
                            CodebookTables.WriteXlsx(book, file);
                            break;
                        case CodebookFormat.Csv:
                            CodebookTables.WriteCsv(book, file);
                            break;
                        case CodebookFormat.Md:
                            file.Write(Encoding.UTF8.GetBytes(CodebookText.Markdown(book)));
                            break;
                        default:
                            CodebookText.WriteExchange(book, file);
                            break;
                    }
                    return Results.File(file.ToArray(), TypeOf(kind), $"Codebook.{StoredExtension(kind)}");

                    void Write(TagId? under, IReadOnlyList<string> above)
                    {
                        foreach (var tag in all.Where(t => t.ParentId == under))
                        {
                            if (index.PlaceOfTag(tag.Id) is not { } place || !keys.TryGetValue(tag.Id, out var key))
                                continue;
                            var breadth = Breadth.Of(index.Marks, byTag[place], index.InScope, index.PlacesOfPeople(silent[tag.Id]));
                            var examples =
                                quotes == false
                                    ? []
                                    : uses.Examples(studyId, tag.Id)
                                        .Where(o => index.PlaceOfObservation(o) is not null && gate.Shows(passages[o]))
                                        .Select(o => $"{gate.Words(passages[o])} ({gate.Who(passages[o])})")
                                        .Take(MostExamples);
                            written.Add(
                                new CodebookTag(
                                    key,
                                    above,
                                    gate.Written(tag.Name),
                                    gate.Written(tag.Definition),
                                    gate.Written(tag.IsNot),
                                    [.. tag.Aliases.Select(gate.Written)],
                                    InWords(tag.Scale),
                                    tag.Colour is { } colour ? Palette.Of(colour) : null,
                                    tag.Settled,
                                    breadth.Triple.Observations,
                                    breadth.Triple.Sources,
                                    breadth.Triple.People,
                                    breadth.OutOf,
                                    [.. examples]
                                )
                            );
                            Write(tag.Id, [.. above, gate.Written(tag.Name)]);
                        }
                    }
                }
            );

    private static string InWords(Scale? scale) =>
        scale is null
            ? ""
            : string.Create(CultureInfo.InvariantCulture, $"{scale.Least} to {scale.Most} in steps of {scale.Step} {scale.Unit}").Trim();

    private static string StoredExtension(CodebookFormat format) => format.ToString().ToLowerInvariant();

    private static string TypeOf(CodebookFormat format) =>
        format switch
        {
            CodebookFormat.Docx => "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
            CodebookFormat.Xlsx => "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
            CodebookFormat.Csv => "text/csv; charset=utf-8",
            CodebookFormat.Md => "text/markdown; charset=utf-8",
            _ => "application/xml",
        };
}
