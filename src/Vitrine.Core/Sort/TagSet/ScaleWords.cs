using System.Globalization;
using System.Text.RegularExpressions;

namespace Vitrine.Core.Sort.TagSet;

/// <summary>Scales as they are written in a cell: "0 to 90 in steps of 5 minutes (least: short; most: long)".</summary>
public static class ScaleWords
{
    /// <summary>A scale in words; steps of 1 go without saying. <see cref="Read"/> reads it back as it was.</summary>
    public static string Of(Scale scale)
    {
        var unit = Escaped(scale.Unit);
        var steps =
            scale.Step == 1 && !unit.StartsWith("in steps of ", StringComparison.Ordinal) ? "" : $" in steps of {Number(scale.Step)}";
        var ends = scale.LowLabel + scale.HighLabel is "" ? "" : $" (least: {Escaped(scale.LowLabel)}; most: {Escaped(scale.HighLabel)})";
        return $"{Number(scale.Least)} to {Number(scale.Most)}{steps}{(unit.Length > 0 ? " " + unit : "")}{ends}";
    }

    /// <summary>The scale that some words are; null when they are none.</summary>
    public static Scale? Read(string words)
    {
        if (Words.Match(words.Trim()) is not { Success: true } match)
            return null;
        var scale = new Scale(
            Value("least"),
            Value("most"),
            match.Groups["step"].Success ? Value("step") : 1,
            Text("unit"),
            Text("low"),
            Text("high")
        );
        return scale.Problem() is null ? scale : null;

        double Value(string part) =>
            double.TryParse(match.Groups[part].Value, NumberStyles.Float, CultureInfo.InvariantCulture, out var value) ? value : double.NaN;
        string Text(string part) => Escape.Replace(match.Groups[part].Value, "$1");
    }

    private static string Number(double value) => value.ToString("R", CultureInfo.InvariantCulture);

    private static string Escaped(string text) => Special.Replace(text, "\\$0");

    private static readonly Regex Words = new(
        @"^(?<least>\S+) (?:to|–|-) (?<most>\S+)(?: in steps of (?<step>\S+))?(?: (?<unit>(?:[^\\();]|\\.)+?))?"
            + @"(?: \(least: (?<low>(?:[^\\();]|\\.)*); most: (?<high>(?:[^\\();]|\\.)*)\))?$",
        RegexOptions.Singleline | RegexOptions.CultureInvariant
    );

    private static readonly Regex Special = new(@"[\\();]");

    private static readonly Regex Escape = new(@"\\(.)", RegexOptions.Singleline);
}
