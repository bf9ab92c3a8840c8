using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Weigh.Evidence;

namespace Vitrine.Server.Counting;

/// <summary>A quote, and why it was chosen.</summary>
/// <param name="Ties">Its words that tie it most to the others.</param>
/// <param name="SharedWith">How many of the other quotes have one of them.</param>
/// <param name="People">How many people these are of.</param>
internal sealed record ChosenQuote(Quote Quote, IReadOnlyList<string> Ties, int SharedWith, int People);

/// <param name="Examples">Those that were picked by hand.</param>
/// <param name="Telling">At most three, of different people where there are as many.</param>
/// <param name="Odd">The one that fits least; null where there are too few to say.</param>
/// <param name="Looked">Among how many they were chosen.</param>
internal sealed record QuotesThatTell(IReadOnlyList<Quote> Examples, IReadOnlyList<ChosenQuote> Telling, ChosenQuote? Odd, int Looked)
{
    /// <summary>Of more quotes than these, every second, third and so on is looked at.</summary>
    private const int MostLooked = 2_000;

    /// <summary>Chooses among observations, by their places.</summary>
    public static QuotesThatTell Of(StudyIndex index, IEnumerable<int> observations, QuoteStore quotes)
    {
        var all = index.ByPerson(observations);
        var each = ((all.Count - 1) / MostLooked) + 1;
        var looked = quotes.Of(index, all.Where((_, i) => i % each == 0)).Where(q => q.Words.Length > 0).ToList();
        var told = TellingQuotes.Of([
            .. looked.Select(q => new SpokenQuote(q.Words, q.ParticipantId is { } person ? index.PlaceOfPerson(person) : null)),
        ]);
        return new QuotesThatTell([], [.. told.Telling.Select(Chosen)], told.Odd is { } odd ? Chosen(odd) : null, looked.Count);

        ChosenQuote Chosen(TellingQuote quote) => new(looked[quote.Place], quote.Ties, quote.SharedWith, quote.People);
    }
}
