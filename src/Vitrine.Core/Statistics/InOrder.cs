namespace Vitrine.Core.Statistics;

/// <summary>
/// Orders things by computed numbers. Sums that are taken in another order differ in their last digits: numbers that lie closer than
/// <see cref="Tolerance"/> (relative to the larger, or to 1) are equal. Equals keep the order in which they were given: ties are
/// decided by place and never by rounding.
/// </summary>
public static class InOrder
{
    /// <summary>What is closer is equal.</summary>
    public const double Tolerance = 1e-9;

    /// <summary>Largest first; equals in the order given.</summary>
    public static IReadOnlyList<T> Descending<T>(IEnumerable<T> items, Func<T, double> value)
    {
        var sorted = items.Select((item, place) => (Item: item, Value: value(item), Place: place)).OrderByDescending(x => x.Value).ToList();
        for (var from = 0; from < sorted.Count; )
        {
            var to = from + 1;
            while (to < sorted.Count && Equal(sorted[to - 1].Value, sorted[to].Value))
                to++;
            if (to - from > 1)
                sorted.Sort(from, to - from, Comparer<(T Item, double Value, int Place)>.Create((a, b) => a.Place.CompareTo(b.Place)));
            from = to;
        }
        return sorted.ConvertAll(x => x.Item);
    }

    /// <summary>The first of those with the largest value.</summary>
    /// <exception cref="InvalidOperationException">There are none.</exception>
    public static T Largest<T>(IReadOnlyList<T> items, Func<T, double> value)
    {
        var values = items.Select(value).ToList();
        var largest = values.Max();
        return items[values.FindIndex(v => Equal(v, largest))];
    }

    private static bool Equal(double a, double b) =>
        a.Equals(b) || Math.Abs(a - b) <= Tolerance * Math.Max(1, Math.Max(Math.Abs(a), Math.Abs(b)));
}
