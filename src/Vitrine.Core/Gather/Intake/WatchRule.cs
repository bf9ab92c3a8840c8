using System.Text.Json.Serialization;

namespace Vitrine.Core.Gather.Intake;

/// <summary>What arrives from outside, as far as a watch looks at it.</summary>
/// <param name="ChannelId">Where it arrived.</param>
/// <param name="Sender">Who sent it, as it says.</param>
/// <param name="Rating">What it rates, on its channel's own scale; null without one.</param>
public sealed record Arrived(ChannelId ChannelId, string Sender, double? Rating);

/// <summary>What of a rule something that arrived meets; with none of it, it is the channel alone.</summary>
/// <param name="Words">The rule's words that are in the text, each once and as it stands there.</param>
/// <param name="Sender">Who sent it, where the rule asks for a sender; null otherwise.</param>
/// <param name="Rating">What it rates, where the rule asks for a rating; null otherwise.</param>
public sealed record MetRule(IReadOnlyList<string> Words, string? Sender, double? Rating);

/// <summary>
/// A rule that routes feedback into a study. Every condition that is given must hold; of its words, one or all.
/// A word stands for all of its forms (its stem); several words in a row are a phrase.
/// </summary>
/// <param name="Words">Words and phrases; empty for any feedback.</param>
/// <param name="AllWords">Whether all of them must be there; else one is enough.</param>
/// <param name="Sender">A part of the sender's name or address, in any case; empty for anyone.</param>
/// <param name="RatingFrom">The least rating, or null.</param>
/// <param name="RatingTo">The highest rating, or null.</param>
/// <param name="ChannelId">The only channel, or null for all.</param>
public sealed record WatchRule(
    IReadOnlyList<string> Words,
    bool AllWords,
    string Sender,
    double? RatingFrom,
    double? RatingTo,
    ChannelId? ChannelId
)
{
    /// <summary>Whether nothing is asked: such a watch would route everything.</summary>
    [JsonIgnore]
    public bool IsEmpty => Words.Count == 0 && Sender.Length == 0 && RatingFrom is null && RatingTo is null && ChannelId is null;

    /// <summary>What of the rule something that arrived meets; null when it does not meet the rule.</summary>
    /// <param name="arrived">What arrived.</param>
    /// <param name="found">Of the rule's words those that are in the text, each with how it stands there.</param>
    public MetRule? Meets(Arrived arrived, IReadOnlyDictionary<string, string> found)
    {
        var there = Words.Where(found.ContainsKey).ToList();
        if (Words.Count > 0 && (AllWords ? there.Count < Words.Count : there.Count == 0))
            return null;
        if (Sender.Length > 0 && !arrived.Sender.Contains(Sender, StringComparison.OrdinalIgnoreCase))
            return null;
        if ((RatingFrom ?? RatingTo) is not null && arrived.Rating is null)
            return null;
        if (arrived.Rating < RatingFrom || arrived.Rating > RatingTo)
            return null;
        if (ChannelId is { } only && only != arrived.ChannelId)
            return null;
        return new MetRule(
            [.. there.Select(w => found[w]).Distinct()],
            Sender.Length > 0 ? arrived.Sender : null,
            (RatingFrom ?? RatingTo) is not null ? arrived.Rating : null
        );
    }
}
