namespace Vitrine.Core.Text;

/// <summary>How near two words are spelled.</summary>
public static class Spelling
{
    /// <summary>
    /// The least number of letters put in, left out, exchanged, or swapped with the one beside them, that turns one into the other; no part
    /// is changed twice (optimal string alignment: Damerau, "A technique for computer detection and correction of spelling errors",
    /// Communications of the ACM 7, 1964).
    /// </summary>
    public static int Distance(string one, string other)
    {
        var (before, last, now) = (new int[other.Length + 1], new int[other.Length + 1], new int[other.Length + 1]);
        for (var j = 0; j <= other.Length; j++)
            last[j] = j;
        for (var i = 1; i <= one.Length; i++)
        {
            now[0] = i;
            for (var j = 1; j <= other.Length; j++)
            {
                var same = one[i - 1] == other[j - 1] ? 0 : 1;
                now[j] = Math.Min(Math.Min(last[j] + 1, now[j - 1] + 1), last[j - 1] + same);
                if (i > 1 && j > 1 && one[i - 1] == other[j - 2] && one[i - 2] == other[j - 1])
                    now[j] = Math.Min(now[j], before[j - 2] + 1);
            }
            (before, last, now) = (last, now, before);
        }
        return last[other.Length];
    }

    /// <summary>
    /// Likeness from 0 to 1 by shared letters that stand near each other, with more for a common beginning (Jaro, Journal of the American
    /// Statistical Association 84, 1989; Winkler, "String comparator metrics", 1990: a tenth for each of at most four letters).
    /// </summary>
    public static double Likeness(string one, string other)
    {
        if (one.Length == 0 || other.Length == 0)
            return one.Length == other.Length ? 1 : 0;
        var window = Math.Max(0, (Math.Max(one.Length, other.Length) / 2) - 1);
        var (inOne, inOther) = (new bool[one.Length], new bool[other.Length]);
        var shared = 0;
        for (var i = 0; i < one.Length; i++)
        {
            for (var j = Math.Max(0, i - window); j <= Math.Min(other.Length - 1, i + window); j++)
            {
                if (inOther[j] || one[i] != other[j])
                    continue;
                (inOne[i], inOther[j]) = (true, true);
                shared++;
                break;
            }
        }
        if (shared == 0)
            return 0;
        var (turned, at) = (0, 0);
        for (var i = 0; i < one.Length; i++)
        {
            if (!inOne[i])
                continue;
            while (!inOther[at])
                at++;
            if (one[i] != other[at++])
                turned++;
        }
        double m = shared;
        var jaro = ((m / one.Length) + (m / other.Length) + ((m - (turned / 2.0)) / m)) / 3;
        var begin = 0;
        while (begin < Math.Min(4, Math.Min(one.Length, other.Length)) && one[begin] == other[begin])
            begin++;
        return jaro + (begin * 0.1 * (1 - jaro));
    }
}
