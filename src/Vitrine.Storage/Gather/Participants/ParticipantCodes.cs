using System.Globalization;

namespace Vitrine.Storage.Gather.Participants;

/// <summary>Codes for people who come in without one: R001 and on.</summary>
internal static class ParticipantCodes
{
    /// <summary>The next code that nobody of <paramref name="taken"/> has; it is added to them.</summary>
    public static string Next(HashSet<string> taken)
    {
        var code = Enumerable
            .Range(taken.Count + 1, int.MaxValue - taken.Count - 1)
            .Select(n => n.ToString("'R'000", CultureInfo.InvariantCulture))
            .First(c => !taken.Contains(c));
        taken.Add(code);
        return code;
    }
}
