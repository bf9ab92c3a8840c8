using System.Net;
using System.Security.Cryptography;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Vitrine.Server.StandIns;

namespace Vitrine.Server.Tests;

/// <summary>The stand-in writes recordings down; its turns are held against the silences that were placed.</summary>
public sealed class TranscriptionTests(SharedServer shared) : Recorded(shared), IClassFixture<SharedServer>
{
    private async Task<JsonNode> Written(long recording, string language = "en", int speakers = 2)
    {
        await server.Post($"sources/{recording}/transcription", new { language, speakers });
        return await Wait.For("a transcript", () => server.Get($"sources/{recording}/transcription"), facts => !(bool)facts["working"]!);
    }

    private async Task<JsonNode> TranscriptOf(long recording)
    {
        var line = (await server.SourcesOf(study)).Last(s => (long?)s!["inStepWithId"] == recording)!;
        return await server.Get($"sources/{line["id"]}");
    }

    [Fact]
    public async Task Turns_are_found_in_the_sound_and_their_words_say_that_they_are_simulated()
    {
        var (recording, _) = await Ready("talk.wav", await Make("talk.wav"));
        Assert.Equal("", (string)(await Written(recording))["said"]!);
        var transcript = await TranscriptOf(recording);
        Assert.Equal(
            ("simulated", "talk, simulated transcript"),
            ((string)transcript["line"]!["writtenBy"]!, (string)transcript["line"]!["title"]!)
        );
        var turns = transcript["turns"]!.AsArray();
        // Noise from 0 to 1 s and from 2.5 to 4 s.
        Assert.Equal(2, turns.Count);
        Assert.InRange((int)turns[0]!["endMs"]!, 960, 1040);
        Assert.InRange((int)turns[1]!["beginMs"]!, 2460, 2540);
        // Who speaks after the pause is for a person to say.
        Assert.Equal(["Speaker 1"], transcript["line"]!["speakers"]!.AsArray().Select(s => (string)s!["label"]!));
        var text = (string)transcript["text"]!;
        Assert.All(turns, t => Assert.StartsWith(SimulatedTranscriber.Mark, text[(int)t!["start"]!..], StringComparison.Ordinal));
        Assert.All(transcript["shape"]!["times"]!.AsArray(), t => Assert.True((bool)t!["unsure"]!));

        // The same again is the same; another language has other words, and one speaker one turn.
        await Written(recording);
        Assert.Equal(text, (string)(await TranscriptOf(recording))["text"]!);
        await Written(recording, "de", 1);
        var german = await TranscriptOf(recording);
        Assert.NotEqual(text, (string)german["text"]!);
        Assert.Single(german["turns"]!.AsArray());
        // Undone as one.
        await server.Post(
            "undo",
            new
            {
                studyId = study,
                actionId = (long?)null,
                anywhere = false,
            }
        );
        Assert.Equal(3, (await server.SourcesOf(study)).Count);
    }

    [Fact]
    public async Task A_word_that_somebody_has_looked_at_is_not_doubted_any_more()
    {
        var (recording, _) = await Ready("talk.wav", await Make("talk.wav"));
        await Written(recording);
        var transcript = await TranscriptOf(recording);
        var (id, hash) = ((long)transcript["line"]!["id"]!, (string)transcript["textHash"]!);
        var words = transcript["shape"]!["times"]![0]!["words"]!;
        await server.Post(
            $"sources/{id}/sure",
            new
            {
                start = (int)words["start"]!,
                end = (int)words["end"]!,
                basedOn = hash,
            }
        );
        var unsure = (await server.Get($"sources/{id}"))["shape"]!["times"]!.AsArray().Select(t => (bool)t!["unsure"]!).ToList();
        Assert.Equal((false, true), (unsure[0], unsure.Skip(1).All(u => u)));
        var again = await server.Refused(
            $"sources/{id}/sure",
            new
            {
                start = 0,
                end = 1,
                basedOn = "another",
            }
        );
        Assert.Equal((409, "Somebody has corrected this text meanwhile. Look at the words again."), again);
    }

    [Fact]
    public async Task What_cannot_be_written_down_says_why()
    {
        var (silent, _) = await Ready(
            "silent.mp4",
            await Film("silent.mp4", "-an", "-c:v", "libx264", "-pix_fmt", "yuv420p", "-vf", "scale=320:180")
        );
        Assert.StartsWith("This recording has no sound", (string)(await Written(silent))["said"]!);
        Assert.Equal(400, (await server.Refused($"sources/{silent}/transcription", new { language = "xx", speakers = 2 })).Status);
        Assert.Equal(400, (await server.Refused($"sources/{silent}/transcription", new { language = "en", speakers = 0 })).Status);
        var pasted = await server.Paste(study, "Notes", "Nothing to hear.");
        Assert.Equal(404, (await server.Refused($"sources/{pasted}/transcription", new { language = "en", speakers = 2 })).Status);
        using var stopped = await server.Http.DeleteAsync(new Uri($"/api/sources/{silent}/transcription", UriKind.Relative));
        Assert.Equal(HttpStatusCode.OK, stopped.StatusCode);
    }

    [Fact]
    public async Task A_transcript_is_attached_to_a_recording_and_let_go()
    {
        var (recording, _) = await Ready("talk.wav", await Make("talk.wav"));
        var vtt = "WEBVTT\n\n00:00.500 --> 00:00.900\n<v Una>Where is it?";
        var talk = (await server.Upload(study, "talk.vtt", System.Text.Encoding.UTF8.GetBytes(vtt))).SourceId!.Value;
        var mark = await server.Mark(talk, (string)(await server.Get($"sources/{talk}"))["text"]!, "Where is it?");
        var heard = new Uri($"/api/observations/{mark}/cutout", UriKind.Relative);
        Assert.Equal(HttpStatusCode.NotFound, (await server.Http.GetAsync(heard)).StatusCode);
        await server.Put($"sources/{talk}/in-step-with", new { sourceId = recording });
        Assert.Equal(HttpStatusCode.OK, (await server.Http.GetAsync(heard)).StatusCode);
        Assert.Equal(400, (await server.Refused($"sources/{recording}/in-step-with", new { sourceId = recording }, HttpMethod.Put)).Status);
        await server.Put($"sources/{talk}/in-step-with", new { sourceId = (long?)null });
        Assert.Equal(HttpStatusCode.NotFound, (await server.Http.GetAsync(heard)).StatusCode);
    }

    [Fact]
    public async Task A_transcript_without_times_is_laid_along_its_recording_and_pinned()
    {
        var (recording, _) = await Ready("talk.wav", await Make("talk.wav"));
        const string said = "Una: Where is it?\n\nWren: Over there, behind the tall grey shed.\n\nUna: I see.";
        var talk = await server.Paste(study, "Talk", said);
        Assert.Empty((await server.Get($"sources/{talk}/in-step"))["words"]!.AsArray());
        await server.Put($"sources/{talk}/in-step-with", new { sourceId = recording });
        var laid = await server.Get($"sources/{talk}/in-step");
        Assert.True((bool)laid["estimated"]!);
        var words = laid["words"]!.AsArray().Select(n => (int)n!).Chunk(4).ToList();
        Assert.Equal(12, words.Count);
        // Noise from 0 to 1 s and from 2.5 to 4 s: nothing begins in the pause.
        Assert.All(words, w => Assert.False(w[2] is > 1040 and < 2460));
        Assert.InRange(words[^1][3], 3900, 4010);

        var source = await server.Get($"sources/{talk}");
        var turns = source["turns"]!.AsArray();
        object At(int turn, int? beginMs) =>
            new
            {
                start = (int)turns[turn]!["start"]!,
                beginMs,
                basedOn = (string)source["textHash"]!,
            };
        await server.Put($"sources/{talk}/turn-begin", At(2, 3500));
        var pinned = (await server.Get($"sources/{talk}/in-step"))["words"]!.AsArray().Select(n => (int)n!).Chunk(4).ToList();
        Assert.Equal((3500, 3500), (pinned[^2][2], pinned[^3][3]));
        var refused = await server.Refused($"sources/{talk}/turn-begin", At(1, 3500), HttpMethod.Put);
        Assert.Equal((400, "A turn begins after the one before it, and before the one after it."), refused);
        await server.Put($"sources/{talk}/turn-begin", At(2, null));
        Assert.Equal(laid.ToJsonString(), (await server.Get($"sources/{talk}/in-step")).ToJsonString());
    }

    [Fact]
    public void The_true_words_of_every_recording_of_the_demo_ship_with_the_stand_in()
    {
        using var known = typeof(SimulatedTranscriber).Assembly.GetManifestResourceStream("spoken.json")!;
        var captions = JsonSerializer.Deserialize<Dictionary<string, string>>(known)!;
        var folder = Path.Combine(DemoTests.DemoFolderPath(), "boarding");
        var recordings = Directory.GetFiles(folder).Where(f => Path.GetExtension(f) is ".webm" or ".mp3").ToList();
        Assert.Equal(
            captions.Keys.Order(),
            recordings.Select(r => Convert.ToHexStringLower(SHA256.HashData(File.ReadAllBytes(r)))).Order()
        );
    }
}

/// <summary>The second way behind the seam: Debian's pocketsphinx, on a sentence that espeak-ng speaks.</summary>
public sealed class PocketsphinxTests(PocketsphinxTests.Listening shared) : Recorded(shared), IClassFixture<PocketsphinxTests.Listening>
{
    public sealed class Listening() : SharedServer(("transcriber", "pocketsphinx"));

    [Fact]
    public async Task A_spoken_sentence_is_heard_roughly_with_times()
    {
        var path = Path.Combine(made.FullName, "spoken.wav");
        Run("espeak-ng", "-v", "en-us+klatt2", "-s", "120", "-w", path, "one two three four five six seven eight nine ten");
        var (recording, facts) = await Ready("spoken.wav", await File.ReadAllBytesAsync(path));
        await server.Post($"sources/{recording}/transcription", new { language = "en-US", speakers = 1 });
        while ((bool)(await server.Get($"sources/{recording}/transcription"))["working"]!)
            await Task.Delay(50);
        var line = (await server.SourcesOf(study)).Single(s => (long?)s!["inStepWithId"] == recording)!;
        Assert.Equal("pocketsphinx", (string)line["writtenBy"]!);
        var transcript = await server.Get($"sources/{line["id"]}");
        var heard = Regex.Matches((string)transcript["text"]!, @"\w+").Select(m => m.Value).ToList();
        Assert.True(heard.Intersect("three four five six seven eight nine".Split(' ')).Count() >= 5, string.Join(' ', heard));
        var times = transcript["shape"]!["times"]!.AsArray();
        Assert.Equal(heard.Count, times.Count);
        Assert.All(times, t => Assert.InRange((int)t!["endMs"]!, 1, (int)facts["lengthMs"]!));
    }
}

/// <summary>The third way behind the seam: any program, here a small script whose answer the test writes beside it.</summary>
public sealed class ProgramTranscriberTests(ProgramTranscriberTests.Scripted shared)
    : Recorded(shared),
        IClassFixture<ProgramTranscriberTests.Scripted>
{
    public sealed class Scripted()
        : SharedServer(("transcriber", $"\"{Script}\" --say \"{Answer}\" {{in}} {{out}}"), ("transcriber-seconds", "4"));

    private static readonly string Folder = Directory.CreateTempSubdirectory("vitrine-script ").FullName;
    private static readonly string Script = Path.Combine(Folder, "write down");
    private static readonly string Answer = Path.Combine(Folder, "answer");

    private async Task<(JsonNode Facts, JsonNode? Transcript)> Heard(string ending, string answer, string script = "")
    {
        await File.WriteAllTextAsync(Answer, answer);
        await File.WriteAllTextAsync(
            Script,
            "#!/bin/sh\n" + (script.Length > 0 ? script : $"test -s \"$3\" && cp \"$2\" \"$4{ending}\"\n")
        );
        Run("chmod", "+x", Script);
        var (recording, _) = await Ready(
            $"talk {Guid.NewGuid():N}.wav",
            [.. await Make("talk.wav"), (byte)Random.Shared.Next(), (byte)Random.Shared.Next()]
        );
        await server.Post($"sources/{recording}/transcription", new { language = "any", speakers = 2 });
        JsonNode facts;
        while ((bool)(facts = await server.Get($"sources/{recording}/transcription"))["working"]!)
            await Task.Delay(20);
        var line = (await server.SourcesOf(study)).SingleOrDefault(s => (long?)s!["inStepWithId"] == recording);
        return (facts, line is null ? null : await server.Get($"sources/{line["id"]}"));
    }

    [Fact]
    public async Task Captions_and_bare_words_become_a_transcript_that_says_who_wrote_it()
    {
        var (facts, transcript) = await Heard(
            ".vtt",
            "WEBVTT\n\n00:00.000 --> 00:01.000\n<v A>Where is it?\n\n00:02.500 --> 00:04.000\n<v B>Over <b>there</b>."
        );
        Assert.Equal(("", "program"), ((string)facts["said"]!, (string)transcript!["line"]!["writtenBy"]!));
        Assert.Equal("Where is it?\n\nOver there.", (string)transcript["text"]!);
        Assert.Equal([0, 2500], transcript["turns"]!.AsArray().Select(t => (int)t!["beginMs"]!));
        Assert.Equal(2, transcript["line"]!["speakers"]!.AsArray().Count);
        Assert.Equal(5, transcript["shape"]!["times"]!.AsArray().Count);

        // Words without times or voices are of one speaker, and are aligned.
        (_, transcript) = await Heard(".txt", "It was late. Nobody told us.");
        Assert.Single(transcript!["turns"]!.AsArray());
        Assert.Null(transcript["turns"]![0]!["beginMs"]);
        var inStep = await server.Get($"sources/{transcript["line"]!["id"]}/in-step");
        Assert.True((bool)inStep["estimated"]!);
        Assert.Equal(6 * 4, inStep["words"]!.AsArray().Count);
    }

    [Fact]
    public async Task What_a_program_does_wrong_is_said_and_the_recording_stays()
    {
        foreach (
            var (ending, answer, script, said) in new[]
            {
                (".vtt", "", "exit 3", "ended with an error"),
                (".vtt", "", "exit 0", "wrote no .vtt, .srt or .txt"),
                (".vtt", "no captions at all", "", "WEBVTT"),
                (".srt", "\0\0\0", "", ""),
                (".txt", "", "sleep 600", "was ended"),
                (".txt", "", "echo pwned > \"$4.txt; rm -rf x\"", "wrote no"),
            }
        )
        {
            var (facts, transcript) = await Heard(ending, answer, script);
            Assert.Contains(said, (string)facts["said"]!, StringComparison.Ordinal);
            Assert.NotEqual("", (string)facts["said"]!);
            Assert.DoesNotContain("went wrong", (string)facts["said"]!, StringComparison.Ordinal);
            Assert.Null(transcript);
        }
    }
}
