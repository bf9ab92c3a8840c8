namespace Vitrine.Formats;

/// <summary>What holds for every reader: how much it takes, and how it says that a file is not what it should be.</summary>
public static class ReadBounds
{
    /// <summary>The most turns or paragraphs of one source.</summary>
    public const int MostTurns = 100_000;

    /// <summary>The most lines of one source; each of its turns and paragraphs may have several.</summary>
    public const int MostLines = 1_000_000;

    /// <summary>The most names that are taken for speakers; a text with more of them is no talk.</summary>
    public const int MostSpeakers = 500;

    /// <summary>The longest text of one source, in UTF-16 units: about 900,000 words.</summary>
    public const int MostText = 5_000_000;

    /// <summary>The largest file that is nothing but text, in bytes: the longest text in the widest encoding.</summary>
    public const int MostTextBytes = 4 * MostText;

    /// <summary>What is said of a file whose parts are nested too deep.</summary>
    public const string TooDeep =
        "The parts of this file are nested deeper than any document’s. Open it in the program that made it, save it anew, and "
        + "add it again.";

    /// <summary>The sentence for what a reader met and did not expect.</summary>
    public static string Problem(Exception problem, string fileName) =>
        problem switch
        {
            UnreadableException told => told.Message,
            InsufficientExecutionStackException => TooDeep,
            OutOfMemoryException =>
                "Reading this file takes more memory than a file may. Split it, or take out what is not needed, and add the parts.",
            _ => $"This is not a whole {Path.GetExtension(fileName).ToLowerInvariant()} file: something in it is not as it should "
                + $"be. Open it in the program that made it, save it anew, and add it again.",
        };

    /// <summary>Runs a reader; whatever it throws comes out as a sentence.</summary>
    /// <exception cref="UnreadableException">It cannot be read.</exception>
    public static T Run<T>(string fileName, Func<T> read)
    {
        try
        {
            return read();
        }
        catch (Exception problem) when (problem is not (UnreadableException or OutOfMemoryException))
        {
            throw new UnreadableException(Problem(problem, fileName));
        }
    }
}
