using Vitrine.Core.Counting;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Sort.Themes;
using Vitrine.Core.Weigh.Evidence;
using Vitrine.Server.Counting;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Gather.Participants;
using Vitrine.Storage.Sort.Themes;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Weigh.Evidence;

namespace Vitrine.Server.Sort.Themes;

/// <summary>A theme in its own words.</summary>
/// <param name="Title">Its claim; empty while nobody has said one.</param>
/// <param name="TagIds">Tags that were laid in it whole.</param>
/// <param name="Laid">How many observations were laid in it one by one.</param>
internal sealed record ThemeHead(
    ThemeId Id,
    ThemeId? ParentId,
    string Title,
    string Description,
    int? Colour,
    long Version,
    IReadOnlyList<TagId> TagIds,
    IReadOnlyList<ResearchQuestionId> ResearchQuestionIds,
    int Laid
)
{
    public static ThemeHead Of(Theme theme) =>
        new(
            theme.Id,
            theme.ParentId,
            theme.Title,
            theme.Description,
            theme.Colour,
            theme.Version,
            theme.TagIds,
            theme.QuestionIds,
            theme.Observations.Count
        );
}

/// <summary>A piece of a theme with its words.</summary>
/// <param name="Laid">Whether it was laid in this theme by hand; else a tag or a sub-theme brings it.</param>
/// <param name="IsNew">Whether it has come since one's last look.</param>
internal sealed record ThemeQuote(Stance Stance, bool Laid, bool IsNew, Quote Quote);

/// <summary>Some of the pieces of a theme.</summary>
/// <param name="Total">How many there are on all pages.</param>
internal sealed record ThemeQuotes(IReadOnlyList<ThemeQuote> Quotes, int Total);

/// <summary>A theme with what it holds now: laid by hand, arrived by tag, and from its sub-themes.</summary>
/// <param name="ThinSpots">Where it is thin.</param>
/// <param name="Beside">How many observations it holds beside its sub-themes.</param>
/// <param name="NewSince">How many observations have come into it since one's last look.</param>
internal sealed record ThemeView(
    ThemeHead Theme,
    Breadth Breadth,
    EvidenceFacts Facts,
    IReadOnlyList<ThinSpot> ThinSpots,
    IReadOnlyList<ThemeQuote> Quotes,
    IReadOnlyDictionary<TagId, int> ArrivedByTag,
    int Beside,
    int NewSince
);

/// <summary>A theme, and all that it says and rests on.</summary>
/// <param name="Negative">How many of its supporting observations are negative.</param>
/// <param name="Positive">How many are positive.</param>
/// <param name="NewestEvidence">The latest day on which supporting words were said, where known.</param>
/// <param name="SilentGroups">Groups of participants from whom there is nothing.</param>
/// <param name="Told">The quotes that tell it best, and the one that fits least.</param>
internal sealed record ThemePage(
    ThemeView View,
    int Negative,
    int Positive,
    DateOnly? NewestEvidence,
    IReadOnlyList<SilentGroup> SilentGroups,
    IReadOnlyList<ParticipantId> NotAsked,
    QuotesThatTell Told
);

/// <summary>The sorting table: themes, and how many observations are in none; these come in pages.</summary>
/// <param name="Unsorted">Those that nobody has decided about.</param>
/// <param name="LeftOut">Those that somebody has left out of all themes on purpose, and that lie in none.</param>
/// <param name="LookedAt">One's last look; null for none: then nothing is new.</param>
/// <param name="NewUnsorted">How many of the unsorted were marked since.</param>
internal sealed record SortingTable(
    IReadOnlyList<ThemeView> Themes,
    int Unsorted,
    int LeftOut,
    int Observations,
    string? LookedAt,
    int NewUnsorted
);

/// <summary>Puts themes together with what they rest on.</summary>
internal sealed class ThemeViews(
    ThemeStore themes,
    SeenStudies indexes,
    QuoteStore quotes,
    NotAskedStore notAsked,
    ParticipantStore participants,
    LeftOutStore leftOut,
    SortingLookStore looks
)
{
    /// <summary>How many quotes a theme's card shows; the rest are on its page.</summary>
    public const int QuotesOnCard = 2;

    /// <param name="most">How many quotes each theme comes with.</param>
    public SortingTable Table(StudyId studyId, AccountId viewer, Conditions? where, int most)
    {
        var study = Load(studyId, viewer, where);
        var unsorted = study.Index.InNone(study.Contents, study.LeftOut, wasLeftOut: false);
        return new SortingTable(
            study.ViewsOf(study.Themes, quotes, themes.Starred(studyId, viewer), most),
            unsorted.Count,
            study.Index.InNone(study.Contents, study.LeftOut, wasLeftOut: true).Count,
            study.Index.Marks.Count,
            study.Came.Since,
            study.Came.CountMarked(unsorted.Select(o => study.Index.Observations[o]))
        );
    }

    public ThemePage Page(ThemeId id, AccountId viewer, Conditions? where)
    {
        var study = Load(themes.StudyOf(id), viewer, where);
        var at = study.PlaceOf(id);
        var theme = study.Themes[at];
        var view = study.ViewsOf([theme], quotes, themes.Starred(study.Index.StudyId, viewer), QuotesOnCard)[0];
        var supporting = study.Of(at, Stance.Supports);
        var heldOn = quotes.HeldOn(study.Index.StudyId);
        var newest = supporting
            .Select(o => study.Index.Sources[study.Index.Marks.SourceOf[o]].Id)
            .Distinct()
            .Select(s => heldOn.TryGetValue(s, out var day) ? day : (DateOnly?)null)
            .Max();
        return new ThemePage(
            view,
            study.Felt(at, Sentiment.Negative),
            study.Felt(at, Sentiment.Positive),
            newest,
            Weighing.SilentGroupsOf(study.People, study.Index, view.Breadth),
            [.. study.NotAsked[id.Value]],
            QuotesThatTell.Of(study.Index, supporting, quotes)
        );
    }

    /// <summary>The pieces of a theme, person by person, in pages: those of one stance, or of all one stance after the other.</summary>
    /// <param name="beside">Without what its sub-themes hold.</param>
    public ThemeQuotes Pieces(
        ThemeId id,
        AccountId viewer,
        Conditions? where,
        Stance? stance,
        bool beside,
        int page,
        int size,
        string words
    )
    {
        var study = Load(themes.StudyOf(id), viewer, where);
        var at = study.PlaceOf(id);
        var theme = study.Themes[at];
        var held = (beside ? study.Themes.Beside(study.Contents, at) : study.Contents[at]).ToLookup(p => p.Stance, p => p.Observation);
        Stance[] order = stance is { } one ? [one] : [Stance.Supports, Stance.Contradicts, Stance.Context];
        var stanceOf = order.SelectMany(s => held[s].Select(o => (o, s))).ToDictionary(p => study.Index.Observations[p.o], p => p.s);
        var found = quotes.Page(study.Index, [.. order.SelectMany(s => study.Index.ByPerson(held[s]))], page, size, words);
        return new ThemeQuotes(
            [
                .. found.Quotes.Select(q => new ThemeQuote(
                    stanceOf[q.ObservationId],
                    theme.Observations.ContainsKey(q.ObservationId),
                    study.IsNew(at, q.ObservationId),
                    q
                )),
            ],
            found.Total
        );
    }

    /// <summary>What a theme has, as evidence of an insight: what it claims and means, and each piece with its stance.</summary>
    /// <exception cref="Refusal">It says too little.</exception>
    public (Theme Theme, ILookup<Stance, ObservationId> Pieces) Evidence(ThemeId id, AccountId viewer)
    {
        var study = Load(themes.StudyOf(id), viewer, null);
        var at = study.PlaceOf(id);
        var theme = study.Themes[at];
        if (ThinSpots.SaysTooLittle(theme.Title, theme.Description))
            throw Refusal.Because(
                theme.Title.Length == 0
                    ? "This theme claims nothing yet. Say in a sentence what its observations claim together, then make an insight of it."
                    : "This theme has no description yet. Say in a sentence or two what it means, then make an insight of it.",
                theme.Title.Length == 0 ? "title" : "description"
            );
        return (theme, study.Contents[at].ToLookup(p => p.Stance, p => study.Index.Observations[p.Observation]));
    }

    /// <summary>What each of some themes holds now, by id.</summary>
    public IReadOnlyDictionary<ThemeId, HashSet<ObservationId>> Held(StudyId studyId, AccountId viewer)
    {
        var study = Load(studyId, viewer, null);
        return study
            .Themes.Select((t, i) => (t.Id, Held: study.Contents[i].Select(p => study.Index.Observations[p.Observation]).ToHashSet()))
            .ToDictionary(t => t.Id, t => t.Held);
    }

    private Sorted Load(StudyId studyId, AccountId viewer, Conditions? where)
    {
        var index = indexes.Load(studyId, viewer, where);
        var all = themes.In(studyId, viewer);
        return new Sorted(
            index,
            all,
            index.ContentsOf(all),
            notAsked.In(studyId, AskedThing.Theme),
            participants.In(studyId),
            leftOut.In(studyId, viewer),
            themes.Sentiments(studyId, viewer),
            looks.Since(studyId, viewer)
        );
    }

    private sealed record Sorted(
        StudyIndex Index,
        IReadOnlyList<Theme> Themes,
        IReadOnlyList<ThemePiece>[] Contents,
        ILookup<long, ParticipantId> NotAsked,
        Participants People,
        IReadOnlySet<ObservationId> LeftOut,
        IReadOnlyDictionary<ObservationId, Sentiment> Sentiments,
        CameSince Came
    )
    {
        private HashSet<int>[] New => field ??= Index.NewIn(Themes, Contents, Came);

        public bool IsNew(int theme, ObservationId observation) =>
            Index.PlaceOfObservation(observation) is { } place && New[theme].Contains(place);

        public int PlaceOf(ThemeId id)
        {
            for (var at = 0; at < Themes.Count; at++)
            {
                if (Themes[at].Id == id)
                    return at;
            }
            throw Refusal.Missing("theme");
        }

        public IEnumerable<int> Of(int theme, Stance stance) => Contents[theme].Where(p => p.Stance == stance).Select(p => p.Observation);

        public int Felt(int theme, Sentiment sentiment) =>
            Of(theme, Stance.Supports).Count(o => Sentiments.TryGetValue(Index.Observations[o], out var felt) && felt == sentiment);

        public IReadOnlyList<ThemeView> ViewsOf(
            IReadOnlyList<Theme> wanted,
            QuoteStore quotes,
            IReadOnlySet<ObservationId> starred,
            int most
        )
        {
            var byTag = Tally.ByTag(Index.Marks, rollUp: true);
            var places = wanted.Select(t => PlaceOf(t.Id)).ToList();
            var onCards = places.Select(at => OnCard(Themes.Beside(Contents, at), starred, most)).ToList();
            var words = quotes.Of(Index, onCards.SelectMany(c => c.Select(p => p.Observation))).ToDictionary(q => q.ObservationId);
            return
            [
                .. wanted.Select(
                    (theme, i) =>
                    {
                        var at = places[i];
                        var (facts, breadth) = Weighing.Of(
                            Index,
                            [.. Contents[at].Select(p => (p.Stance, p.Observation))],
                            Index.InScopeFor(theme.TagIds.Select(Index.PlaceOfTag).OfType<int>()),
                            [.. NotAsked[theme.Id.Value]]
                        );
                        var silent = Weighing.SilentGroupsOf(People, Index, breadth);
                        return new ThemeView(
                            ThemeHead.Of(theme),
                            breadth,
                            facts,
                            ThinSpots.Of(
                                new ThemeGround(
                                    theme.Title,
                                    theme.Description,
                                    facts,
                                    silent.Count,
                                    Felt(at, Sentiment.Negative),
                                    Felt(at, Sentiment.Positive)
                                )
                            ),
                            [
                                .. onCards[i]
                                    .Where(p => words.ContainsKey(Index.Observations[p.Observation]))
                                    .Select(p => new ThemeQuote(
                                        p.Stance,
                                        theme.Observations.ContainsKey(Index.Observations[p.Observation]),
                                        New[at].Contains(p.Observation),
                                        words[Index.Observations[p.Observation]]
                                    )),
                            ],
                            theme.TagIds.ToDictionary(t => t, t => Index.PlaceOfTag(t) is { } place ? byTag[place].Length : 0),
                            Themes.Beside(Contents, at).Count,
                            New[at].Count
                        );
                    }
                ),
            ];
        }

        /// <summary>
        /// Which pieces of a theme are quoted where there is no room for all: starred ones first, each of another person as long as there
        /// are any; of those that contradict at least one, where there is any.
        /// </summary>
        private IReadOnlyList<ThemePiece> OnCard(IReadOnlyList<ThemePiece> contents, IReadOnlySet<ObservationId> starred, int most)
        {
            var order = contents
                .OrderByDescending(p => starred.Contains(Index.Observations[p.Observation]))
                .GroupBy(p => Index.PersonOf(p.Observation)?.Value ?? -Index.Observations[p.Observation].Value)
                .SelectMany(person => person.Select((piece, nth) => (Piece: piece, Nth: nth)))
                .OrderBy(p => p.Nth)
                .Select(p => p.Piece)
                .ToLookup(p => p.Stance);
            var against = order[Stance.Contradicts].Take(Math.Max(1, most - order[Stance.Supports].Count())).ToList();
            var supporting = order[Stance.Supports].Take(most - against.Count).ToList();
            return [.. supporting, .. against, .. order[Stance.Context].Take(most - supporting.Count - against.Count)];
        }
    }
}
