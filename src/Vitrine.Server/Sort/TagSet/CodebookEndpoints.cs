using System.Text;
using Vitrine.Core.Counting;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Formats;
using Vitrine.Formats.Reports;
using Vitrine.Formats.Tables;
using Vitrine.Server.Access;
using Vitrine.Server.FileReading;
using Vitrine.Server.Http;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Gather.Participants;
using Vitrine.Storage.Gather.Studies;
using Vitrine.Storage.Media;
using Vitrine.Storage.Show.Publication;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Trail;
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

/// <summary>The lines of a codebook that comes in.</summary>
internal sealed record CodebookLines(IReadOnlyList<CodebookLine> Lines);

/// <summary>A line of it with what happens to it.</summary>
/// <param name="Name">The name of the tag from then on.</param>
/// <param name="Above">The names above it, topmost first.</param>
/// <param name="Match">By what the tag is known that is there; null when one is made.</param>
/// <param name="Changes">What of it is different from then on.</param>
/// <param name="Definition">What it is from then on.</param>
/// <param name="Problem">Why the line is left out, in a sentence.</param>
/// <param name="IsBundle">Whether it is a bundle and no tag.</param>
internal sealed record PlannedLine(
    string Name,
    IReadOnlyList<string> Above,
    CodebookFate Fate,
    CodebookMatch? Match,
    TagId? TagId,
    IReadOnlyList<CodebookChange> Changes,
    string Definition,
    string? Problem,
    bool IsBundle
);

internal static class CodebookEndpoints
{
    /// <summary>Example quotes of a tag that go out.</summary>
    private const int MostExamples = 3;

    public static void MapCodebook(this RouteGroupBuilder api)
    {
        var study = api.MapGroup("/studies/{studyId:long}").WithTags("Tag set");
        Reading(study, "/codebook/file");
        study.MapPost(
            "/codebook/plan",
            (StudyId studyId, CodebookLines given, CodebookStore store) => store.Plan(studyId, Checked(given)).Select(Shown)
        );
        study.MapPost(
            "/codebook",
            (StudyId studyId, CodebookLines given, SignedIn me, CodebookStore store) => store.Take(me.Actor, studyId, Checked(given))
        );
        var shared = api.MapGroup("/tags/codebook").WithTags("Tag set").About(null);
        Reading(shared, "/file");
        shared.MapPost("/plan", (CodebookLines given, CodebookStore store) => store.Plan(null, Checked(given)).Select(Shown));
        shared.MapPost("", (CodebookLines given, SignedIn me, CodebookStore store) => store.Take(me.Actor, null, Checked(given)));
        study.MapGet(
            "/codebook",
            (
                StudyId studyId,
                Choice<CodebookFormat> format,
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
                CodebookFormat kind = format;
                // It is handed out: what it tells passes the gate, as everything does that leaves.
                var (gate, passages) = publication.GateFor(studyId);
                var gone = participants.In(studyId).People.Where(p => p.Consent == Consent.Withdrawn).Select(p => p.Id).ToHashSet();
                var seen = indexes.Load(studyId, me.Id);
                var index = seen.Only(
                    o => passages.TryGetValue(seen.Observations[o], out var passage) && gate.Counts(passage),
                    Staying(seen.InScope),
                    seen.Searched.ToDictionary(s => s.Key, s => Staying(s.Value))
                );
                var stored = tags.For(studyId);
                var bundles = stored.Where(t => t.Members is not null).ToList();
                var all = stored.Except(bundles).ToList();
                var keys = tags.Keys(studyId);
                var byTag = Tally.ByTag(index.Marks, rollUp: true);
                var own = Tally.ByTag(index.Marks, rollUp: false);
                var silent = notAsked.In(studyId, AskedThing.Tag);
                var written = new List<CodebookTag>();
                Write(null, []);
                var book = new Codebook(
                    gate.Written(studies.Get(studyId, me.Id).Line.Title),
                    DateOnly.FromDateTime(clock.GetUtcNow().Date),
                    written,
                    [
                        .. bundles
                            .Where(b => keys.ContainsKey(b.Id))
                            .Select(b => new CodebookBundle(keys[b.Id], gate.Written(b.Name), gate.Written(b.Definition))),
                    ]
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

                bool[] Staying(bool[] people) => [.. people.Select((there, p) => there && !gone.Contains(seen.People[p]))];

                void Write(TagId? under, IReadOnlyList<string> above)
                {
                    foreach (var tag in all.Where(t => t.ParentId == under))
                    {
                        if (index.PlaceOfTag(tag.Id) is not { } place || !keys.TryGetValue(tag.Id, out var key))
                            continue;
                        var breadth = Breadth.Of(
                            index.Marks,
                            byTag[place],
                            index.InScopeFor(place),
                            index.PlacesOfPeople(silent[tag.Id.Value])
                        );
                        var examples =
                            quotes == false
                                ? []
                                : uses.Examples(studyId, me.Id, tag.Id)
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
                                tag.Scale is { } scale ? gate.Written(ScaleWords.Of(scale)) : "",
                                TagOutside.ColourOf(tag.Colour, tag.Outside),
                                tag.Settled,
                                breadth.Triple.Observations,
                                breadth.Triple.Sources,
                                breadth.Triple.People,
                                breadth.OutOf,
                                [.. examples],
                                [.. bundles.Where(b => b.Members!.Contains(tag.Id)).Select(b => gate.Written(b.Name))],
                                tag.Outside?.IsCodable != false || own[place].Length > 0,
                                tag.Outside?.HasEmptyDescription == true
                            )
                        );
                        Write(tag.Id, [.. above, gate.Written(tag.Name)]);
                    }
                }
            }
        );
    }

    // The file as it is in the request's body: its lines, to be looked over before anything is made of them.
    private static void Reading(RouteGroupBuilder group, string at) =>
        group.MapPost(
            at,
            async (string name, HttpRequest request, MediaFolder media, FileReader reader) =>
                await Validate.File(
                    request,
                    media,
                    async path =>
                    {
                        var lines = await Lines(name, path, reader, request.HttpContext.RequestAborted);
                        return lines.Count > 0 || Path.GetExtension(name).Equals(".qdc", StringComparison.OrdinalIgnoreCase)
                            ? lines
                            : throw Refusal.Because("There is no line with a name in it. Check that it is the codebook you meant.", "file");
                    }
                )
        );

    private static async Task<IReadOnlyList<CodebookLine>> Lines(string name, string path, FileReader reader, CancellationToken cancel)
    {
        try
        {
            if (Path.GetExtension(name).ToLowerInvariant() is ".qdc" or ".docx")
                return await reader.Codebook(name, path, cancel);
            // What was pasted has tabs between its cells, or is one name a line; a comma belongs to a name there.
            if (Path.GetExtension(name).Equals(".txt", StringComparison.OrdinalIgnoreCase))
                return new FileInfo(path).Length <= Limits.PastedTable
                    ? CodebookReading.Table(TableFile.Cells(await File.ReadAllTextAsync(path, cancel), '\t'))
                    : throw Refusal.Because($"This is more than {Limits.PastedTable / 1_000_000} MB. Take it in in parts.", "file");
            var table = await reader.Table(name, path, 1, cancel);
            return CodebookReading.Table([
                [.. table.Columns],
                .. table.Rows,
            ]);
        }
        catch (UnreadableException problem)
        {
            throw Refusal.Because(problem.Message, "file");
        }
    }

    private static IReadOnlyList<CodebookLine> Checked(CodebookLines given)
    {
        if (given.Lines.Count > Limits.ListLength)
            throw Refusal.Because($"These are more than {Limits.ListLength:N0} lines. Take them in in parts.", "lines");
        foreach (var line in given.Lines)
        {
            Validate.Optional(line.Definition, "definition");
            Validate.Optional(line.IsNot, "isNot");
        }
        return given.Lines;
    }

    private static PlannedLine Shown(PlannedTag tag) =>
        new(
            tag.Name?.Shown ?? tag.Line.Name,
            [.. tag.Above.Select(a => a.Shown)],
            tag.Fate,
            tag.Match,
            tag.TagId,
            tag.Changes,
            tag.Definition,
            tag.Problem switch
            {
                null => null,
                CodebookProblem.NoName => "It has no name.",
                CodebookProblem.NameTooLong => $"A name has at most {TagName.Longest} characters.",
                CodebookProblem.Twice => "A line before it is of the same tag.",
                CodebookProblem.UnderItself => "It would be under itself.",
                _ => "Another tag has this name.",
            },
            tag.Line.IsBundle
        );

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
