using Vitrine.Formats;

namespace Vitrine.Server.Http;

/// <summary>How much the server takes, in one place.</summary>
internal static class Limits
{
    /// <summary>
    /// The largest body of any request, in bytes; large enough that a file that is too big is refused with a sentence rather than cut off.
    /// </summary>
    public const long RequestBytes = 64L * 1024 * 1024;

    /// <summary>The largest file that comes in, in bytes; it comes in pieces, each smaller than <see cref="RequestBytes"/>.</summary>
    public const long FileBytes = 8L * 1000 * 1000 * 1000;

    /// <summary>The largest file that is read for its words, in bytes: a document with its pictures.</summary>
    public const long DocumentBytes = 200L * 1000 * 1000;

    /// <summary>The most that is taken as pasted cells, in characters.</summary>
    public const int PastedTable = 10_000_000;

    /// <summary>The longest text of one source, in UTF-16 units.</summary>
    public const int SourceText = ReadBounds.MostText;

    /// <summary>The most memory that reading a file may take, in bytes of managed heap; the whole process stays under a gibibyte.</summary>
    public const long MemoryToRead = 700L * 1024 * 1024;

    /// <summary>How long reading a file may take: the seconds of the settings for any, and one more for each 10 MB.</summary>
    public static TimeSpan TimeToRead(int seconds, long bytes) => TimeSpan.FromSeconds(seconds + (bytes / 10_000_000.0));

    public const int Title = 200;
    public const int Name = 120;
    public const int LongText = 100_000;

    /// <summary>Characters of a text with its form, as it is stored.</summary>
    public const int RichText = 1_000_000;

    /// <summary>The longest line of live notes, in characters.</summary>
    public const int NoteLine = 4_000;
    public const int ListLength = 10_000;

    /// <summary>How many cells of the participants' grid can be set at once.</summary>
    public const int Cells = 50_000;

    /// <summary>How many quotes a page of them holds.</summary>
    public const int QuotesOnPage = 100;

    /// <summary>How many sources, or participants, a page of them holds.</summary>
    public const int LinesOnPage = 500;

    /// <summary>How many pieces of feedback a page of them holds.</summary>
    public const int FeedbackOnPage = 100;

    public const int ShortestPassword = 10;

    /// <summary>How long requests may take to end when the server stops.</summary>
    public static readonly TimeSpan StoppingTime = TimeSpan.FromSeconds(5);

    /// <summary>How often one address may try to sign in, in a minute.</summary>
    public const int GuessesAMinute = 20;

    /// <summary>How much feedback one address may send, in a minute.</summary>
    public const int ArrivalsAMinute = 600;

    /// <summary>How often one address may ask for a published page or a quote's context, in a minute.</summary>
    public const int ReadingsAMinute = 300;
}
