namespace Vitrine.Bench;

/// <summary>How much is measured: all of it, or so little that the tests can see whether a bench still runs.</summary>
internal static class Size
{
    public static bool IsTiny { get; set; }

    public static int Of(int whole, int tiny) => IsTiny ? tiny : whole;
}
