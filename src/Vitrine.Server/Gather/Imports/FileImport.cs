using System.Globalization;
using System.Text.Json;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Text;
using Vitrine.Formats;
using Vitrine.Server.FileReading;
using Vitrine.Server.Gather.Turns;
using Vitrine.Server.Http;
using Vitrine.Server.Jobs;
using Vitrine.Storage.Gather.Attachments;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Jobs;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Gather.Imports;

/// <summary>What a person says about a file that comes in.</summary>
/// <param name="Kind">What the source will be.</param>
/// <param name="FolderId">Where it goes; null for no folder.</param>
/// <param name="Anyway">Whether it is added although the same content is here.</param>
/// <param name="Attachment">Whether it is kept as an attachment and not read.</param>
/// <param name="Batch">The same for files that were given at once.</param>
internal sealed record FileGiven(SourceKind Kind, FolderId? FolderId, bool Anyway, bool Attachment = false, Guid? Batch = null);

/// <summary>Makes a source or an attachment of a file that has come in, and keeps the file.</summary>
internal sealed class FileImport(
    JobStore jobs,
    MediaFolder media,
    SourceStore sources,
    AttachmentStore attachments,
    SourceReading gate,
    FileReader reader
) : IJobWork
{
    public JobKind Kind => JobKind.File;

    public async Task<JobEnd> Run(Job job, Actor actor, IProgress<double> progress, CancellationToken cancel)
    {
        var given = JsonSerializer.Deserialize<FileGiven>(job.Given)!;
        actor = actor with { Batch = given.Batch };
        // What cannot be read at all was not sent.
        if (!given.Attachment && SourceFile.UseOf(job.Name) is null)
            throw Refusal.Because(
                $"Files of this kind cannot be read. Choose {string.Join(", ", SourceFile.Endings)}, or add it as an attachment.",
                "file"
            );
        if (job.Bytes == 0)
            throw Refusal.Because("The file is empty. Check that it was saved, and add it again.", "file");
        var hash = job.Hash ?? await media.HashOf(job.Key, cancel);
        jobs.Hashed(job, hash);
        // A name may lie: what a file is, it says itself.
        var name = given.Attachment ? job.Name : Named(job.Name, media.PathOf(job.Key, hash));
        var use = given.Attachment ? null : SourceFile.UseOf(name);
        if (use is null)
            return Attach(job, actor, hash, given.Anyway);
        if (!given.Anyway && sources.SameFile(job.StudyId, hash) is { } same)
            return new JobEnd(JobState.Same, $"The same file is already here as “{same.Title}”.", same.Id);
        if (use == FileUse.Table)
        {
            // What is no table is told here, beside the other files, and not first on the screen that asks for its columns.
            await reader.Table(name, media.PathOf(job.Key, hash), null, cancel);
            return new JobEnd(JobState.Table, SourceReading.IsTable);
        }
        var kept = new NewMedia(hash, job.Name, SourceFile.TypeOf(name), job.Bytes);
        var title = SourceReading.TitleOf(job.Name);
        if (use == FileUse.Media)
        {
            media.Keep(job.Key, hash);
            var film = sources.Add(
                actor,
                job.StudyId,
                new NewSource(title, given.Kind, null, job.Name, "", [], [], null, kept, given.FolderId),
                []
            );
            if (!kept.Type.StartsWith("image/", StringComparison.Ordinal))
                jobs.Add(job.StudyId, job.AccountId, JobKind.Recording, JobState.Waiting, name, job.Bytes, "", "{}", hash, film.Id);
            return new JobEnd(JobState.Done, "Kept as it is.", film.Id);
        }
        var read = await Read(job, name, hash, cancel);
        progress.Report(0.5);
        if (!given.Anyway && sources.SameText(job.StudyId, read.Text) is { } there)
            return new JobEnd(JobState.Same, $"The same text is already here as “{there.Title}”.", there.Id);
        media.Keep(job.Key, hash);
        var step = sources.Add(
            actor,
            job.StudyId,
            new NewSource(title, given.Kind, null, job.Name, read.Text, read.Turns, [], read.Shape, kept, given.FolderId)
            {
                Comments = [.. NotesOf(read)],
            },
            gate.TeamNames()
        );
        return new JobEnd(JobState.Done, Said(read), step.Id);
    }

    public JobEnd DoneBefore(Job job, Step step) =>
        new(JobState.Done, step.Label + ".", JsonSerializer.Deserialize<FileGiven>(job.Given)!.Attachment ? null : step.Id);

    /// <summary>The name of a file with the ending that fits what is in it.</summary>
    private static string Named(string name, string path)
    {
        using var file = File.OpenRead(path);
        return FileContent.EndingOf(name, file) is { } ending && !name.EndsWith(ending, StringComparison.OrdinalIgnoreCase)
            ? Path.GetFileNameWithoutExtension(name) + ending
            : name;
    }

    private JobEnd Attach(Job job, Actor actor, string hash, bool anyway)
    {
        if (!anyway && attachments.SameFile(job.StudyId, hash) is { } same)
            return new JobEnd(JobState.Same, $"The same file is attached already as “{same.Title}”.");
        media.Keep(job.Key, hash);
        attachments.Add(
            actor,
            job.StudyId,
            SourceReading.TitleOf(job.Name),
            new NewMedia(hash, job.Name, SourceFile.TypeOf(job.Name), job.Bytes)
        );
        return new JobEnd(JobState.Done, "Kept as it is, as an attachment.");
    }

    private Task<ReadSource> Read(Job job, string name, string hash, CancellationToken cancel)
    {
        if (job.Bytes > Limits.DocumentBytes)
            throw Refusal.Because(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"This file is {job.Bytes / 1_000_000} MB; a document can have {Limits.DocumentBytes / 1_000_000} MB. Take "
                        + $"its pictures out or split it, and add it again."
                ),
                "file"
            );
        return gate.Read(job.StudyId, name, media.PathOf(job.Key, hash), cancel);
    }

    /// <summary>Comments as margin notes, each under its writer's name: the person who brings the file in did not write them.</summary>
    private static IEnumerable<(TextRange Words, string Note)> NotesOf(ReadSource read) =>
        from comment in read.Comments ?? []
        let said = comment.Author.Length == 0 ? comment.Text : $"{comment.Author}: {comment.Text}"
        from part in said.Chunk(Limits.LongText)
        select (comment.Words, new string(part));

    private static string Said(ReadSource read)
    {
        var speakers = read.Turns.Select(t => t.Speaker).OfType<string>().Distinct().Count();
        var what =
            speakers > 0
                ? $"{SourceReading.Count(read.Turns.Count, "turn")} by {SourceReading.Count(speakers, "speaker")}"
                : SourceReading.Count(read.Turns.Count, "paragraph");
        var doubtful = read.Doubtful?.Count ?? 0;
        string[] look = doubtful == 0 ? [] : [$"{SourceReading.Count(doubtful, "name")} to look at"];
        string[] notes = read.Comments is { Count: > 0 } comments
            ? [$"{SourceReading.Count(comments.Count, "comment")} {(comments.Count == 1 ? "is a margin note" : "are margin notes")} now"]
            : [];
        return string.Join(". ", (string[])[what, .. look, .. notes, .. read.Remarks.Select(r => r.TrimEnd('.'))]) + ".";
    }
}
