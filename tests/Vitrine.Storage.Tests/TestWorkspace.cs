using Vitrine.Core.Access;
using Vitrine.Core.Gather.Corrections;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Gather.Turns;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Core.Text;
using Vitrine.Storage.Access;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Gather.Attachments;
using Vitrine.Storage.Gather.Corrections;
using Vitrine.Storage.Gather.Participants;
using Vitrine.Storage.Gather.Sessions;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Gather.Studies;
using Vitrine.Storage.Gather.Turns;
using Vitrine.Storage.Mark.MarginNotes;
using Vitrine.Storage.Mark.Observations;
using Vitrine.Storage.Media;
using Vitrine.Storage.Show.Exhibits;
using Vitrine.Storage.Show.Insights;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Sort.Themes;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Uses;
using Vitrine.Storage.Weigh.Evidence;

namespace Vitrine.Storage.Tests;

/// <summary>A real workspace in a folder of its own, with two researchers, a study, two participants and one interview.</summary>
public sealed class TestWorkspace : IDisposable
{
    public const string Interview =
        "Ida: How did you hear?\n\nSorrel: I was already standing on the quay. Nobody tells you.\n\nIda: And then?\n\nWren: "
        + "\U0001F6A2 It was off.";

    /// <summary>The time of day, which a test may let run ahead.</summary>
    public TestClock Clock { get; } = new();

    public TestWorkspace()
    {
        Workspace = new Workspace(MigratedTemplate.Folder("vitrine-test-"), Clock);
        Participants = new ParticipantStore(Workspace);
        Sources = new SourceStore(Workspace, Participants);
        Turns = new TurnStore(Workspace, Participants);
        Corrections = new CorrectionStore(Workspace, Sources, Turns);
        Sessions = new SessionStore(Workspace);
        Attachments = new AttachmentStore(Workspace);
        Observations = new ObservationStore(Workspace);
        MarginNotes = new MarginNoteStore(Workspace);
        Tags = new TagStore(Workspace);
        Access = new StudyAccess(Workspace);
        Uses = new UsesStore(Workspace, Access);
        Reach = new TagReachStore(Workspace, Uses);
        Bundles = new BundleStore(Workspace);
        Themes = new ThemeStore(Workspace);
        Insights = new InsightStore(Workspace);
        Exhibits = new ExhibitStore(Workspace);
        NotAsked = new NotAskedStore(Workspace);
        InStep = new TranscriptsInStep(Workspace, new MediaFolder(Workspace));
        Undo = new Undo(Workspace);
        Trail = new TrailStore(Workspace);
        var accounts = new AccountStore(Workspace);
        Ida = ActorOf(accounts.Add("Ida Moss", "ida@vitrine.example", Role.Researcher, "x"));
        Tom = ActorOf(accounts.Add("Tom Varley", "tom@vitrine.example", Role.Researcher, "x"));
        Steward = ActorOf(accounts.Add("Una Kerr", "una@vitrine.example", Role.Steward, "x"));
        Study = new StudyStore(Workspace).Create(Ida, new StudyText("Boarding", "", "", ["How do they hear?"])).Id!.Value;
        Sorrel = Participants.Add(Ida, Study, "P03", "Sorrel", "Marnie Quillfeather").Id!.Value;
        Wren = Participants.Add(Ida, Study, "P02", "Wren", null).Id!.Value;
        Source = AddSource("Interview", Interview);
    }

    public Workspace Workspace { get; }
    public ParticipantStore Participants { get; }
    public SourceStore Sources { get; }
    public TurnStore Turns { get; }
    public CorrectionStore Corrections { get; }
    public SessionStore Sessions { get; }
    public AttachmentStore Attachments { get; }
    public ObservationStore Observations { get; }
    public MarginNoteStore MarginNotes { get; }
    public TagStore Tags { get; }
    public StudyAccess Access { get; }
    public UsesStore Uses { get; }
    public TagReachStore Reach { get; }
    public BundleStore Bundles { get; }
    public ThemeStore Themes { get; }
    public InsightStore Insights { get; }
    public ExhibitStore Exhibits { get; }
    public NotAskedStore NotAsked { get; }
    public TranscriptsInStep InStep { get; }
    public Undo Undo { get; }
    public TrailStore Trail { get; }
    public Actor Ida { get; }
    public Actor Tom { get; }
    public Actor Steward { get; }

    /// <summary>One of the team who is in no study.</summary>
    public Viewer Outside => new(Tom.AccountId, Tom.Role);

    /// <summary>The steward, as one who looks.</summary>
    public Viewer All => new(Steward.AccountId, Steward.Role);
    public StudyId Study { get; }
    public ParticipantId Sorrel { get; }
    public ParticipantId Wren { get; }
    public SourceId Source { get; }

    /// <summary>The titles of what of one kind uses something.</summary>
    public static IEnumerable<string> Titles(ThingUses uses, ThingKind kind, string? called = null) =>
        uses.Kinds.Where(k => k.Kind == kind && k.As == called).SelectMany(k => k.Named).Select(u => u.Title);

    public static TagName Named(string name) => TagName.Read(name, out _)!;

    public SourceId AddSource(string title, string text)
    {
        var canonical = CanonicalText.From(text);
        return Sources
            .Add(
                Ida,
                Study,
                new NewSource(
                    title,
                    SourceKind.Interview,
                    null,
                    null,
                    canonical,
                    TurnReading.Of(canonical, name => name is "Sorrel" or "Wren"),
                    []
                ),
                ["Ida Moss"]
            )
            .Id!.Value;
    }

    /// <summary>A stretch of text, as it is given.</summary>
    public static AnchorGiven Words(int start, int end) => new(AnchorKind.Text, Start: start, End: end);

    /// <summary>Marks words of the interview.</summary>
    public Step Mark(Actor actor, string words, params string[] tags)
    {
        var at = Interview.IndexOf(words, StringComparison.Ordinal);
        return Observations.Make(actor, Source, Words(at, at + words.Length), [], [.. tags.Select(Named)]);
    }

    /// <summary>Writes a margin note on words of the interview.</summary>
    public MarginNoteId Remark(Actor actor, string on, string words, bool unsure = false)
    {
        var at = Interview.IndexOf(on, StringComparison.Ordinal);
        return MarginNotes.Make(actor, Source, Words(at, at + on.Length), words, unsure).Id!.Value;
    }

    /// <summary>The interview with another text.</summary>
    public static Correction Corrected(TestWorkspace w, string text) => Corrected(w, w.Source, text);

    /// <summary>A source with another text.</summary>
    public static Correction Corrected(TestWorkspace w, SourceId sourceId, string text)
    {
        var source = w.Sources.Get(sourceId, w.Tom.AccountId);
        var moved = Reanchor.Between(source.Text, CanonicalText.From(text));
        return new Correction(source.TextHash, moved, CorrectedText.TurnsOf(moved, source.ReadTurns()), null);
    }

    public StudyIndex Index() => new StudyIndexStore(Workspace).Load(Study);

    public void Dispose() => Directory.Delete(Workspace.Folder, recursive: true);

    private static Actor ActorOf(Account account) => new(account.Id, account.Name, account.Role);
}

/// <summary>The machine's clock, set ahead.</summary>
public sealed class TestClock : TimeProvider
{
    private TimeSpan ahead;

    public void Advance(TimeSpan by) => ahead += by;

    public override DateTimeOffset GetUtcNow() => base.GetUtcNow() + ahead;
}
