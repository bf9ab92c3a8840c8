using Vitrine.Core.Text;

namespace Vitrine.Core.Gather.Privacy;

/// <summary>What becomes of a source in which others take part too, when someone is erased.</summary>
public enum SharedOutcome
{
    /// <summary>Words of theirs are taken out of its text.</summary>
    TakeOut,

    /// <summary>Where they may be heard, its file is silent; a film is dark meanwhile, and what is covered in it is gone.</summary>
    Silence,

    /// <summary>What is covered in its picture is covered in its file.</summary>
    Cover,

    /// <summary>Somebody has looked: nothing of theirs is in it.</summary>
    NothingOfTheirs,

    /// <summary>It goes as a whole.</summary>
    Remove,
}

/// <summary>A decision about one such source.</summary>
/// <param name="SourceId">Which.</param>
/// <param name="What">What becomes of it.</param>
/// <param name="Ranges">The words that are taken out besides the turns that are matched to them, in UTF-16 units of its text.</param>
/// <param name="BasedOn">The hash of that text.</param>
public sealed record SharedDecision(SourceId SourceId, SharedOutcome What, IReadOnlyList<TextRange>? Ranges = null, string? BasedOn = null);
