namespace Vitrine.Server.Tests;

/// <summary>Asks again and again until an answer fits; one that never does ends the test with what it waited for.</summary>
internal static class Wait
{
    private static readonly TimeSpan Longest = TimeSpan.FromMinutes(2);

    public static async Task<T> For<T>(string what, Func<Task<T>> ask, Func<T, bool> fits)
    {
        var until = DateTime.UtcNow + Longest;
        while (true)
        {
            var answer = await ask();
            if (fits(answer))
                return answer;
            Assert.True(DateTime.UtcNow < until, $"Waited {Longest.TotalSeconds} s for {what}; the last answer was: {answer}");
            await Task.Delay(20);
        }
    }
}
