using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Gather.Turns;
using Vitrine.Core.Text;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Show.Publication;

namespace Vitrine.Storage.Tests;

public sealed class PublicationStoreTests : IDisposable
{
    private static readonly string[] Names = ["Ida", "Sorrel", "Wren", "Man at the bar", "Marnie"];
    private readonly TestWorkspace w = new();

    public void Dispose() => w.Dispose();

    /// <summary>
    /// Random studies: turns of the team, of participants, of names that are matched to nobody and without a name, in sources with any
    /// participants; observations on any stretch of them.
    /// </summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void The_gates_person_is_the_counts_person_for_every_observation(int seed)
    {
        var random = new Random(seed);
        for (var s = 0; s < 12; s++)
        {
            var paragraphs = Enumerable
                .Range(0, random.Next(1, 7))
                .Select(_ =>
                    random.Next(4) == 0 ? "It was off again." : $"{Names[random.Next(Names.Length)]}: It was off again, all of it."
                );
            var text = CanonicalText.From(string.Join("\n\n", paragraphs));
            ParticipantId[] people = [.. new[] { w.Sorrel, w.Wren }.Where(_ => random.Next(2) == 0)];
            var source = w
                .Sources.Add(
                    w.Ida,
                    w.Study,
                    new NewSource(
                        $"Random {s}",
                        random.Next(3) == 0 ? SourceKind.FieldNotes : SourceKind.Interview,
                        null,
                        null,
                        text,
                        TurnReading.Of(text, Names.Contains),
                        people
                    ),
                    ["Ida Moss"]
                )
                .Id!.Value;
            foreach (var speaker in w.Sources.Get(source, 0).Line.Speakers.Where(_ => random.Next(2) == 0))
                w.Turns.MatchSpeaker(
                    w.Ida,
                    source,
                    speaker.Id,
                    random.Next(3) == 0 ? null
                        : random.Next(2) == 0 ? w.Sorrel
                        : w.Wren,
                    false
                );
            for (var o = 0; o < 12; o++)
            {
                if (TextRange.Tidy(text, random.Next(text.Length), random.Next(text.Length)) is { } range)
                    w.Observations.Make(w.Ida, source, TestWorkspace.Words(range.Start, range.End), [], []);
            }
        }
        var index = w.Index();
        var (gate, passages) = new PublicationStore(w.Workspace).GateFor(w.Study);
        Assert.InRange(passages.Count, 60, 200);
        Assert.All(
            Enumerable.Range(0, index.Observations.Length),
            o => Assert.Equal(index.PersonOf(o), gate.PersonOf(passages[index.Observations[o]]))
        );
        // All three cases are among them.
        Assert.Equal(3, passages.Values.Select(gate.PersonOf).Distinct().Count());
    }
}
