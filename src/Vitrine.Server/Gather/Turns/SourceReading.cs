using System.Globalization;
using Vitrine.Core.Gather.Turns;
using Vitrine.Core.Text;
using Vitrine.Formats;
using Vitrine.Server.FileReading;
using Vitrine.Server.Http;
using Vitrine.Storage.Access;
using Vitrine.Storage.Gather.Participants;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Gather.Turns;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Gather.Turns;

/// <summary>What every text passes on its way into a study, whether it was pasted or came as a file.</summary>
internal sealed class SourceReading(ParticipantStore participants, AccountStore accounts, TurnStore stored, FileReader reader)
{
    /// <summary>What is said of a file that is a table.</summary>
    public const string IsTable = "It is a table. Say what its columns are, and its rows become participants and answers.";

    /// <summary>The names by which the team may be called in a transcript.</summary>
    public IReadOnlyCollection<string> TeamNames() => [.. accounts.All().Select(a => a.Name)];

    /// <summary>Reads a text with what the study knows of names.</summary>
    /// <exception cref="Refusal">It cannot be read, or is longer than a source may be.</exception>
    public ReadSource Read(StudyId studyId, string field, Func<Func<string, bool>, ReadSource> reader)
    {
        var (people, team) = (participants.Known(studyId), TeamNames());
        var read = Readable(field, () => reader(name => SpeakerMatching.Knows(name, people, team)));
        return Readable(field, () => read.Bounded(name => SpeakerMatching.Knows(name, people, team)));
    }

    /// <summary>Has a file read with what the study knows of names.</summary>
    /// <exception cref="Refusal">It cannot be read, or is longer than a source may be.</exception>
    public Task<ReadSource> Read(StudyId studyId, string name, string path, CancellationToken cancel) =>
        reader.Source(name, path, participants.Known(studyId), TeamNames(), cancel);

    /// <summary>What a reader makes of a file or a text.</summary>
    /// <exception cref="Refusal">It cannot be read, with the reader's sentence.</exception>
    public static T Readable<T>(string field, Func<T> read)
    {
        try
        {
            return read();
        }
        catch (UnreadableException problem)
        {
            throw Refusal.Because(problem.Message, field);
        }
    }

    /// <summary>"1 turn", "1,200 turns".</summary>
    public static string Count(int n, string one) => string.Create(CultureInfo.InvariantCulture, $"{n:N0} {one}{(n == 1 ? "" : "s")}");

    /// <summary>How a source's turns can be understood: as each style, and as is guessed.</summary>
    public SourceReadings Readings(Source source) => Readings(source.StudyId, source.Text, source.Shape, stored.Choices(source.Line.Id));

    /// <summary>How the turns of a source's corrected text can be understood.</summary>
    public SourceReadings Readings(Source source, string text, Shape? shape) =>
        Readings(source.StudyId, text, shape, stored.Choices(source.Line.Id));

    /// <summary>How a source's turns can be understood when other things are said of its labels.</summary>
    public SourceReadings Readings(Source source, IReadOnlyDictionary<string, bool> choices) =>
        Readings(source.StudyId, source.Text, source.Shape, choices);

    private SourceReadings Readings(StudyId studyId, string text, Shape? shape, IReadOnlyDictionary<string, bool> choices)
    {
        var (people, team) = (participants.Known(studyId), TeamNames());
        return new SourceReadings(
            text,
            new TurnAids(name => SpeakerMatching.Knows(name, people, team), shape?.Blocks, shape?.Lines, choices)
        );
    }

    /// <summary>A title for a file: its name without the ending.</summary>
    public static string TitleOf(string fileName) =>
        Path.GetFileNameWithoutExtension(fileName) is { Length: > 0 } stem ? stem[..Math.Min(stem.Length, Limits.Title)] : fileName;

    public static Refusal TooLong(long length, string field) => Refusal.Because(ReadSource.TooLong(length).Message, field);

    /// <summary>A day as year-month-day, or null.</summary>
    /// <exception cref="Refusal">It is none.</exception>
    public static DateOnly? Day(string? value)
    {
        if (string.IsNullOrWhiteSpace(value))
            return null;
        return DateOnly.TryParseExact(value, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day)
            ? day
            : throw Refusal.Because("Type the date as year-month-day, such as 2026-03-14.", "heldOn");
    }
}
