using System.Buffers.Binary;
using System.Text.Encodings.Web;
using System.Text.Json;
using Vitrine.Core.Gather.Turns;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Formats;
using Vitrine.Formats.Feedback;
using Vitrine.Formats.Reports;
using Vitrine.Formats.Tables;

namespace Vitrine.Server.FileReading;

/// <summary>What is to be read out of a file.</summary>
internal enum ReadWhat
{
    Source,
    Table,
    Email,
    Feed,
    Codebook,
}

/// <summary>A file to be read.</summary>
/// <param name="Name">Its name as it was given; the ending chooses the reader.</param>
/// <param name="Path">Where it stands.</param>
/// <param name="HeaderRows">For a table: how many rows name the columns; null to tell from it.</param>
/// <param name="People">Who may speak in it.</param>
/// <param name="Team">Names of the team.</param>
internal sealed record ReadRequest(
    ReadWhat What,
    string Name,
    string Path,
    int? HeaderRows,
    IReadOnlyList<KnownParticipant> People,
    IReadOnlyList<string> Team
);

/// <summary>What came of it: one of the five.</summary>
/// <param name="Unreadable">Why it cannot be read, in a sentence.</param>
internal sealed record ReadAnswer(
    string? Unreadable,
    ReadSource? Source = null,
    Table? Table = null,
    IReadOnlyList<ReadFeedback>? Feedback = null,
    IReadOnlyList<CodebookLine>? Codebook = null
);

/// <summary>
/// The reading of files, in a process of its own: whatever a file does to its reader (endless work, endless memory, a stack that is used
/// up), it does to this process alone.
/// It reads one file after the other, as it is asked on its standard input, and ends with it.
/// </summary>
internal static class FileReadingWorker
{
    /// <summary>The word on the command line that makes the program this process.</summary>
    public const string Command = "read-files";

    private const int StackBytes = 64 * 1024 * 1024;

    private static readonly JsonSerializerOptions Json = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    public static int Run(Stream input, Stream output)
    {
        while (Receive<ReadRequest>(input) is { } request)
        {
            ReadAnswer? answer = null;
            // Deep documents are read by functions that call themselves; with this much room they say so before the room is used up.
            var reading = new Thread(() => answer = Read(request), StackBytes);
            reading.Start();
            reading.Join();
            Send(output, answer!);
            // What is left of a large file is not kept for the next one.
            GC.Collect();
        }
        return 0;
    }

    public static void Send<T>(Stream to, T what)
    {
        var bytes = JsonSerializer.SerializeToUtf8Bytes(what, Json);
        Span<byte> length = stackalloc byte[sizeof(int)];
        BinaryPrimitives.WriteInt32LittleEndian(length, bytes.Length);
        to.Write(length);
        to.Write(bytes);
        to.Flush();
    }

    /// <returns>What was sent; null at the end of the stream.</returns>
    public static T? Receive<T>(Stream from)
        where T : class
    {
        Span<byte> length = stackalloc byte[sizeof(int)];
        if (from.ReadAtLeast(length, length.Length, throwOnEndOfStream: false) < length.Length)
            return null;
        var bytes = new byte[BinaryPrimitives.ReadInt32LittleEndian(length)];
        return from.ReadAtLeast(bytes, bytes.Length, throwOnEndOfStream: false) < bytes.Length
            ? null
            : JsonSerializer.Deserialize<T>(bytes, Json);
    }

    private static ReadAnswer Read(ReadRequest request)
    {
        try
        {
            using var file = File.OpenRead(request.Path);
            return request.What switch
            {
                ReadWhat.Source => new ReadAnswer(
                    null,
                    Source: SourceFile.Read(request.Name, file, name => SpeakerMatching.Knows(name, request.People, request.Team))
                ),
                ReadWhat.Table => new ReadAnswer(null, Table: TableFile.Read(request.Name, file, request.HeaderRows)),
                ReadWhat.Email => new ReadAnswer(null, Feedback: [EmailFile.Read(File.ReadAllBytes(request.Path))]),
                ReadWhat.Codebook => new ReadAnswer(
                    null,
                    Codebook: Path.GetExtension(request.Name).Equals(".docx", StringComparison.OrdinalIgnoreCase)
                        ? CodebookDocx.Read(file)
                        : CodebookReading.Exchange(file)
                ),
                _ => new ReadAnswer(null, Feedback: FeedFile.Read(file)),
            };
        }
        catch (Exception problem)
        {
            return new ReadAnswer(ReadBounds.Problem(problem, request.Name));
        }
    }
}
