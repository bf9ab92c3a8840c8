using Dapper;
using Vitrine.Core.Gather.Sessions;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Gather.Turns;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;
using Vitrine.Storage.Gather.Sessions;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Mark.Recordings;
using Vitrine.Storage.Media;
using Vitrine.Storage.Show.Publication;

namespace Vitrine.Storage.Tests;

public sealed class PublicationStoreTests : IDisposable
{
    private static readonly string[] Names = ["Ida", "Sorrel", "Wren", "Man at the bar", "Marnie"];
    private readonly TestWorkspace w = new();

    public void Dispose() => w.Dispose();

    /// <summary>
    /// Random studies: turns of the team, of participants, of names that are matched to nobody and without a name, in sources with any
    /// participants, some of them with somebody who was erased; half of them timed, with a recording of their session on a clock of its own;
    /// observations on any stretch of them, in words and in time.
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
            var timed = random.Next(2) == 0;
            var turns = TurnReading
                .Of(text, Names.Contains)
                .Select(
                    (t, i) =>
                        !timed || random.Next(6) == 0
                            ? t
                            : t with
                            {
                                BeginMs = i * 1000 + random.Next(300),
                                EndMs = random.Next(3) == 0 ? null : i * 1000 + 400 + random.Next(900),
                            }
                )
                .ToList();
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
                        turns,
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
            if (random.Next(5) == 0)
                Erased(source);
            if (timed)
                Clips(source, random, s);
            for (var o = 0; o < 12; o++)
            {
                if (TextRange.Tidy(text, random.Next(text.Length), random.Next(text.Length)) is { } range)
                    w.Observations.Make(w.Ida, source, TestWorkspace.Words(range.Start, range.End), [], []);
            }
        }
        var index = w.Index();
        var (gate, passages) = new PublicationStore(w.Workspace).GateFor(w.Study);
        Assert.InRange(passages.Count, 60, 250);
        Assert.Contains(passages.Values, p => p.Anchor is TimeAnchor && gate.PersonOf(p) is not null);
        Assert.All(
            Enumerable.Range(0, index.Observations.Length),
            o => Assert.Equal(index.PersonOf(o), gate.PersonOf(passages[index.Observations[o]]))
        );
        // All three cases are among them.
        Assert.Equal(3, passages.Values.Select(gate.PersonOf).Distinct().Count());
    }

    private void Erased(SourceId source)
    {
        using var connection = w.Workspace.Open();
        connection.Execute("UPDATE source SET people_erased = 1 WHERE id = @source", new { source });
    }

    /// <summary>A recording of the source's session, with clips on it.</summary>
    private void Clips(SourceId source, Random random, int number)
    {
        var hash = $"{number:x64}";
        var recording = w
            .Sources.Add(
                w.Ida,
                w.Study,
                new NewSource(
                    $"Sound {number}",
                    SourceKind.Interview,
                    null,
                    "sound.wav",
                    "",
                    [],
                    [],
                    Media: new NewMedia(hash, "sound.wav", "audio/wav", 4)
                ),
                []
            )
            .Id!.Value;
        new RecordingStore(w.Workspace, new MediaFolder(w.Workspace)).Keep(
            new Recording
            {
                Hash = hash,
                LengthMs = 9_000,
                Sounds = true,
            },
            w.Study,
            w.Ida.AccountId
        );
        w.Sessions.Add(w.Ida, w.Study, new SessionText($"Held {number}", SessionKind.Interview, null, null, "", []), [source, recording]);
        w.Sources.SetOffset(w.Ida, recording, random.Next(3) * 500);
        for (var c = 0; c < 6; c++)
        {
            var begin = random.Next(7_000);
            w.Observations.Make(
                w.Ida,
                recording,
                new AnchorGiven(AnchorKind.Time, BeginMs: begin, EndMs: begin + 100 + random.Next(1_500)),
                [],
                []
            );
        }
        if (random.Next(5) == 0)
            Erased(recording);
    }
}
