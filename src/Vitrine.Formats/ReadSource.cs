using System.Globalization;
using Vitrine.Core.Gather.Turns;
using Vitrine.Core.Text;

namespace Vitrine.Formats;

/// <summary>What a reader made of a file or of pasted text.</summary>
/// <param name="Text">Canonical plain text.</param>
/// <param name="Turns">Its turns or paragraphs, in order.</param>
/// <param name="Remarks">Sentences about what was left out or guessed; empty when all went in.</param>
/// <param name="Shape">Headings, lists, tables, bold, italics and pages; null where the file has none.</param>
/// <param name="Doubtful">Names in it that a person should look at; null where it names its speakers by itself, as captions do.</param>
/// <param name="Comments">What people wrote beside its words; null for nothing.</param>
public sealed record ReadSource(
    string Text,
    IReadOnlyList<Turn> Turns,
    IReadOnlyList<string> Remarks,
    Shape? Shape = null,
    IReadOnlyList<DoubtfulLabel>? Doubtful = null,
    IReadOnlyList<CommentInFile>? Comments = null
)
{
    /// <summary>A text whose turns are recognised.</summary>
    internal static ReadSource Recognised(string text, Func<string, bool>? isKnown, IReadOnlyList<string> remarks, Shape? shape = null)
    {
        // Before its turns are looked for, which takes seconds in such a text.
        if (text.AsSpan().Count('\n') > ReadBounds.MostLines)
            throw TooMany(text.AsSpan().Count('\n'), "lines", ReadBounds.MostLines);
        var guess = TurnReading.Guess(text, new TurnAids(isKnown, shape?.Blocks, shape?.Lines));
        return new ReadSource(text, guess.Turns, remarks, shape, guess.Doubtful);
    }

    /// <summary>The remark on pictures that were left out; none when there were none.</summary>
    internal static IEnumerable<string> LeftOut(int pictures) =>
        pictures switch
        {
            0 => [],
            1 => ["One picture in it was left out."],
            _ => [$"{pictures} pictures in it were left out."],
        };

    /// <summary>The remark on comments that were left out, which ends with why; none when there were none.</summary>
    internal static IEnumerable<string> CommentsLeftOut(int comments, string why) =>
        comments switch
        {
            0 => [],
            1 => [$"One comment in it was left out: {why}."],
            _ => [$"{comments} comments in it were left out: {why}."],
        };

    /// <summary>
    /// The source as long as it is one that a person can read: a text with names beyond number is read as paragraphs, one that is too long
    /// is refused.
    /// </summary>
    /// <exception cref="UnreadableException">It is too long.</exception>
    public ReadSource Bounded(Func<string, bool>? isKnown)
    {
        if (Text.Length > ReadBounds.MostText)
            throw TooLong(Text.Length);
        if (Turns.Count > ReadBounds.MostTurns)
            throw TooMany(Turns.Count, "turns or paragraphs", ReadBounds.MostTurns);
        var names = Turns.Select(t => t.Speaker).OfType<string>().Distinct().Count();
        if (names <= ReadBounds.MostSpeakers)
            return this;
        var plain = TurnReading.Of(Text, isKnown, Shape?.Blocks, TurnStyle.NoTurns);
        return (
            this with
            {
                Turns = plain,
                Doubtful = [],
                Remarks =
                [
                    .. Remarks,
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"{names:N0} different names seem to speak in it; it was read as paragraphs."
                    ),
                ],
            }
        ).Bounded(isKnown);
    }

    private static UnreadableException TooMany(int count, string what, int most) =>
        new(
            string.Create(
                CultureInfo.InvariantCulture,
                $"These are {count:N0} {what}; one source can hold {most:N0}. Split it, for example by session, and add the parts."
            )
        );

    /// <param name="length">In characters, or bytes of a file of text.</param>
    public static UnreadableException TooLong(long length) =>
        new(
            string.Create(
                CultureInfo.InvariantCulture,
                $"This text is {length / 1e6:0.#} MB; one source can hold {ReadBounds.MostText / 1_000_000} MB, about 900,000 "
                    + $"words. Split it, for example by session, and add the parts."
            )
        );

    /// <summary>What a document holds that was built block by block; comments come with the places between which they stand.</summary>
    /// <exception cref="UnreadableException">It holds no words.</exception>
    internal static ReadSource Of(
        ShapedText built,
        Func<string, bool>? isKnown,
        IEnumerable<string> remarks,
        string? without = null,
        IEnumerable<(int From, int To, string Text, string Author)>? comments = null
    )
    {
        var (text, shape) =
            built.Done() ?? throw new UnreadableException(without ?? "There are no words in it. Choose a file with something to read.");
        return Recognised(text, isKnown, [.. remarks], shape) with
        {
            Comments = comments?.Select(c => new CommentInFile(built.Between(c.From, c.To), c.Text, c.Author)).ToList(),
        };
    }
}

/// <summary>What somebody wrote beside words of a document.</summary>
/// <param name="Words">The words it stands beside; its whole paragraph where it names none.</param>
/// <param name="Text">What it says; never empty.</param>
/// <param name="Author">Who wrote it, as the file says; empty where it does not.</param>
public sealed record CommentInFile(TextRange Words, string Text, string Author);

/// <summary>A file that cannot be read, with a sentence that says why and what to do.</summary>
public sealed class UnreadableException(string message) : Exception(message);
