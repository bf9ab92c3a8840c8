using System.Diagnostics;
using System.Globalization;
using Vitrine.Core.Gather.Turns;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Formats;
using Vitrine.Formats.Feedback;
using Vitrine.Formats.Tables;
using Vitrine.Server.Http;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.FileReading;

/// <summary>
/// Has files read by a process of their own (<see cref="FileReadingWorker"/>), which is kept warm, and is ended and begun anew when a file
/// takes too long or brings it down.
/// </summary>
internal sealed class FileReader(ILogger<FileReader> log, IConfiguration settings) : IDisposable
{
    private readonly SemaphoreSlim one = new(1);
    private Process? process;

    public async Task<ReadSource> Source(
        string name,
        string path,
        IReadOnlyList<KnownParticipant> people,
        IReadOnlyCollection<string> team,
        CancellationToken cancel
    ) => (await Ask(new ReadRequest(ReadWhat.Source, name, path, null, people, [.. team]), cancel)).Source!;

    public async Task<Table> Table(string name, string path, int? headerRows, CancellationToken cancel) =>
        (await Ask(new ReadRequest(ReadWhat.Table, name, path, headerRows, [], []), cancel)).Table!;

    /// <summary>The lines of a codebook that is no table: .docx or .qdc.</summary>
    public async Task<IReadOnlyList<CodebookLine>> Codebook(string name, string path, CancellationToken cancel) =>
        (await Ask(new ReadRequest(ReadWhat.Codebook, name, path, null, [], []), cancel)).Codebook!;

    /// <param name="mail">Whether it is an e-mail; else a feed.</param>
    public async Task<IReadOnlyList<ReadFeedback>> Feedback(string name, string path, bool mail, CancellationToken cancel) =>
        (await Ask(new ReadRequest(mail ? ReadWhat.Email : ReadWhat.Feed, name, path, null, [], []), cancel)).Feedback!;

    public void Dispose()
    {
        End();
        one.Dispose();
    }

    /// <exception cref="Refusal">It cannot be read, with a sentence that says why.</exception>
    private async Task<ReadAnswer> Ask(ReadRequest request, CancellationToken cancel)
    {
        var time = Limits.TimeToRead(settings.GetValue("reading-seconds", 15), new FileInfo(request.Path).Length);
        await one.WaitAsync(cancel);
        try
        {
            var answer = Answer(request);
            if (await Task.WhenAny(answer, Task.Delay(time, cancel)) != answer)
            {
                End();
                cancel.ThrowIfCancellationRequested();
                throw Refused(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"Reading this file takes too long: more than {time.TotalSeconds:0} seconds. Open it in the program that "
                            + $"made it, save it anew or in parts, and add it again."
                    )
                );
            }
            if (await answer is not { } said)
            {
                // The only way in which a file brings the process down: a stack or a memory that it used up before anything could be said.
                log.LogWarning("A file of {Bytes} bytes brought its reader down", new FileInfo(request.Path).Length);
                End();
                throw Refused(
                    "The parts of this file are nested deeper, or are larger, than any document’s. Open it in the program that "
                        + "made it, save it anew or in parts, and add it again."
                );
            }
            if (said.Unreadable is { } why)
                throw Refused(why);
            return said;
        }
        finally
        {
            one.Release();
        }
    }

    private static Refusal Refused(string why) => Refusal.Because(why, "file");

    private Task<ReadAnswer?> Answer(ReadRequest request) =>
        Task.Run(() =>
        {
            try
            {
                var reading = Started();
                FileReadingWorker.Send(reading.StandardInput.BaseStream, request);
                return FileReadingWorker.Receive<ReadAnswer>(reading.StandardOutput.BaseStream);
            }
            catch (IOException)
            {
                return null;
            }
        });

    private Process Started()
    {
        if (process is { HasExited: false })
            return process;
        process?.Dispose();
        var start = new ProcessStartInfo("dotnet", [typeof(FileReader).Assembly.Location, FileReadingWorker.Command])
        {
            RedirectStandardInput = true,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        start.Environment["DOTNET_GCHeapHardLimit"] = Limits.MemoryToRead.ToString("X", CultureInfo.InvariantCulture);
        start.Environment["DOTNET_gcServer"] = "0";
        start.Environment["DOTNET_DbgEnableMiniDump"] = "0";
        process = Process.Start(start)!;
        // What the runtime says when it is brought down is of no use to anyone, and would stop the process if nobody read it.
        process.ErrorDataReceived += (_, _) => { };
        process.BeginErrorReadLine();
        return process;
    }

    private void End()
    {
        if (process is not { } ended)
            return;
        process = null;
        try
        {
            ended.Kill();
        }
        catch (InvalidOperationException)
        {
            // It has ended by itself.
        }
        ended.Dispose();
    }
}
