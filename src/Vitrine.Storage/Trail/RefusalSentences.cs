using System.Globalization;
using Vitrine.Core.Gather.Intake;
using Vitrine.Core.Gather.Participants;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Sort.TagSet;

namespace Vitrine.Storage.Trail;

/// <summary>What Core finds, told in sentences that say what to do. Core itself has codes and data alone.</summary>
public static class RefusalSentences
{
    public static string Of(AnchorProblem problem) =>
        problem switch
        {
            AnchorProblem.NoWords => "There are no words in this selection. Select some words and try again.",
            AnchorProblem.NoTimes => "This source has no times. Mark its words instead.",
            AnchorProblem.OutsideTime =>
                "This stretch of time is empty or lies outside the source. Choose a beginning and a later end inside it.",
            AnchorProblem.NoPicture => "This source has no picture. Mark its words instead.",
            AnchorProblem.NoOutline =>
                $"An outline has 3 to {Outline.Most} corners inside the picture, and holds something. Draw it again.",
            _ => "This part lies outside the picture, or is empty. Draw it inside the picture.",
        };

    public static string Of(ScaleProblem problem) =>
        problem switch
        {
            ScaleProblem.Ends => "The highest value of a scale is above its lowest.",
            ScaleProblem.Step => "The step of a scale is above 0 and not wider than the scale.",
            _ => $"A scale can have {Scale.MostValues:N0} values. Make the step wider.",
        };

    public static string Of(TagCellProblem problem) =>
        problem switch
        {
            TagCellProblem.NoTag => "This tag is gone. Reload the page.",
            TagCellProblem.NoName => OfTagName(0),
            TagCellProblem.NameTooLong => $"A tag's name has {TagName.Longest} characters at most.",
            TagCellProblem.NameTaken => "Another tag is called so already. Merge the two, or choose another name.",
            TagCellProblem.NoParent => "No tag is called so. Write the name of a tag, or leave it empty.",
            TagCellProblem.WhichParent => "Several tags are called so. Write those above it too, as in “hearing / late”.",
            TagCellProblem.UnderItself => "A tag cannot be under itself. Choose another parent.",
            TagCellProblem.State => "Write settled or draft.",
            TagCellProblem.Scale => "Write a scale as “1 to 5”, or “0 to 90 in steps of 5 minutes”.",
            TagCellProblem.ValuesLost => "Values that were given are not on this scale. Change them first, or widen the scale.",
            TagCellProblem.Colour => $"Colours are numbered from 1 to {Palette.Count}.",
            _ => TooLong(TagCells.LongestText + 1, TagCells.LongestText),
        };

    /// <summary>Of a tag's name that cannot be one.</summary>
    /// <param name="length">How many characters it has.</param>
    public static string OfTagName(int length) =>
        length == 0
            ? "A tag needs a name. Type a word or two for what you noticed."
            : $"This tag name has {length} characters; {TagName.Longest} is the most. Keep the name short and put the rest in the tag's "
                + "definition.";

    public static string TooLong(int length, int most) =>
        $"This has {length:N0} characters; {most:N0} is the most. Shorten it and try again.";

    public static string CodeTaken(string code, string holder) => $"{code} is {holder} already. Give this person another code.";

    public static string Of(RefusedCell cell) =>
        cell.Problem switch
        {
            CellProblem.TooLong => TooLong(cell.Value.Length, ParticipantCells.Longest(cell.Column)),
            CellProblem.NoCode => "A participant needs a code, such as P01.",
            CellProblem.NoPseudonym => "A participant needs a pseudonym: a made-up name to be called by.",
            CellProblem.NoConsent => $"Consent is one of {string.Join(", ", Enum.GetNames<Consent>()).ToLowerInvariant()}.",
            CellProblem.CodeTaken => CodeTaken(cell.Value, cell.Holder!),
            CellProblem.WrongType => $"“{cell.Attribute!.Name}” is {Wanted(cell.Attribute.Kind)}; “{cell.Value}” does not fit.",
            _ => "This attribute is not here any more. Reload the page to see what is there.",
        };

    /// <summary>What a value of the type looks like.</summary>
    public static string Wanted(AttributeKind kind) =>
        kind switch
        {
            AttributeKind.Number => "a number. Type digits, such as 12 or 3.5",
            AttributeKind.Date => "a date. Type it as year-month-day, such as 2026-03-14",
            AttributeKind.YesNo => "yes or no",
            _ => "text",
        };

    /// <summary>What of a watch's rule is met, for the person who looks why something is there.</summary>
    public static string Of(MetRule met)
    {
        string?[] said =
        [
            met.Words.Count > 0 ? string.Join(", ", met.Words.Select(w => $"“{w}”")) : null,
            met.Sender is { } sender ? $"from {sender}" : null,
            met.Rating is { } rating ? string.Create(CultureInfo.InvariantCulture, $"rated {rating}") : null,
        ];
        return string.Join("; ", said.OfType<string>()) is { Length: > 0 } all ? all : "its channel";
    }
}
