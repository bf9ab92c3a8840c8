using Vitrine.Core.Mark.Transcription;
using Vitrine.Core.Text;
using Vitrine.Storage.Gather.Sources;

namespace Vitrine.Server.Mark.Transcription;

/// <summary>A recording that is to be written down.</summary>
/// <param name="Path">The file.</param>
/// <param name="Hash">Its SHA-256.</param>
/// <param name="LengthMs">How long it lasts.</param>
/// <param name="Pauses">Where nobody speaks.</param>
/// <param name="Language">One of the service's languages.</param>
/// <param name="Speakers">How many people speak.</param>
internal sealed record ToHear(string Path, string Hash, int LengthMs, IReadOnlyList<TimeRange> Pauses, string Language, int Speakers);

/// <summary>
/// The seam to a service that writes down what is said. What it hears becomes a transcript like any other; a real service takes the place
/// of the stand-in here.
/// </summary>
internal interface ITranscriber
{
    WrittenBy Kind { get; }

    /// <summary>What a researcher should know before trusting it, in a sentence.</summary>
    string Says { get; }

    /// <summary>Whether what it needs is installed.</summary>
    bool IsThere { get; }

    /// <summary>Languages as tags of BCP 47, the first one offered first.</summary>
    IReadOnlyList<string> Languages { get; }

    /// <exception cref="Storage.Trail.Refusal">It cannot be done, with a sentence.</exception>
    Task<IReadOnlyList<HeardTurn>> Hear(ToHear recording, IProgress<double> progress, CancellationToken cancel);
}
