using Vitrine.Core.Gather.Participants;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Sort.WhoNext;
using Vitrine.Core.Weigh.Evidence;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Gather.Participants;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Sort.Themes;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Sort.WhoNext;

/// <summary>A value that the people of a group share.</summary>
/// <param name="Attribute">The attribute's name.</param>
internal sealed record SharedValue(AttributeId AttributeId, string Attribute, string Value);

/// <summary>A group, or a combination of two, of whom few or none were heard.</summary>
/// <param name="People">How many there are in the study, without those who have withdrawn.</param>
/// <param name="Heard">How many of them were heard.</param>
/// <param name="Expected">Of a combination, how many would have been heard if the two had nothing to do with each other.</param>
/// <param name="NotHeardIds">Some of those who were not heard: whom to talk to.</param>
/// <param name="AskAboutIds">Themes on which none of them was heard, those with most people first: what to ask.</param>
internal sealed record WhoNextGroup(
    IReadOnlyList<SharedValue> Values,
    int People,
    int Heard,
    double? Expected,
    IReadOnlyList<ParticipantId> NotHeardIds,
    IReadOnlyList<ThemeId> AskAboutIds
);

/// <summary>A theme that one person supports.</summary>
/// <param name="Observations">How often.</param>
/// <param name="NotHeardOn">How many others were heard in the study, and not on it.</param>
internal sealed record OneVoice(ThemeId ThemeId, ParticipantId ParticipantId, int Observations, int NotHeardOn);

/// <summary>What a session, or a source that belongs to none, has added.</summary>
/// <param name="SourceId">Its first source.</param>
/// <param name="Tags">How many tags are on its observations.</param>
/// <param name="NewVoices">How often somebody was heard for the first time under a tag that an earlier one had.</param>
internal sealed record SessionLine(
    SourceId SourceId,
    string Title,
    DateOnly? HeldOn,
    int Tags,
    IReadOnlyList<TagId> NewTagIds,
    int NewVoices
);

/// <summary>Whom to talk to next, and about what.</summary>
/// <param name="Heard">How many people were heard on what is looked at.</param>
/// <param name="People">Of how many in the study.</param>
/// <param name="Sessions">All that were marked, in their order.</param>
/// <param name="LastRun">The last of them against the first; null where there are too few.</param>
internal sealed record WhoNextShown(
    int Heard,
    int People,
    IReadOnlyList<WhoNextGroup> Groups,
    IReadOnlyList<OneVoice> OneVoices,
    IReadOnlyList<SessionLine> Sessions,
    LastRun? LastRun
);

/// <summary>Tells from counts who was hardly heard, what rests on one voice, and what the last sessions have brought.</summary>
internal sealed class WhoNextViews(ThemeStore themes, SeenStudies indexes, ParticipantStore participants, SourceStore sources)
{
    private const int MostGroups = 6;
    private const int MostCombinations = 3;
    private const int MostNamed = 5;
    private const int MostAsked = 2;

    /// <param name="themeId">Looks at one theme with its sub-themes; null for all.</param>
    /// <param name="questionId">Looks at the themes that answer a question; null for all.</param>
    public WhoNextShown Of(StudyId studyId, AccountId viewer, ThemeId? themeId, ResearchQuestionId? questionId)
    {
        var index = indexes.Load(studyId, viewer);
        var all = themes.In(studyId, viewer);
        var contents = index.ContentsOf(all);
        var looked = Enumerable.Range(0, all.Count).Where(IsLookedAt).ToList();
        if (themeId is not null && looked.Count == 0)
            throw Refusal.Missing("theme");
        var whole = themeId is null && questionId is null;
        var places = whole
            ? Enumerable.Range(0, index.Marks.Count).ToList()
            : looked.SelectMany(t => contents[t]).Select(p => p.Observation).Distinct().Order().ToList();
        var study = participants.In(studyId);
        var people = study.People.Where(p => p.Consent != Consent.Withdrawn).ToList();
        var heard = places.Select(index.PersonOf).OfType<ParticipantId>().ToHashSet();
        var heardOn = looked
            .Select(t => contents[t].Select(p => index.PersonOf(p.Observation)).OfType<ParticipantId>().ToHashSet())
            .ToList();
        var attributes = study.Attributes.Where(a => a.Kind is AttributeKind.Choice or AttributeKind.YesNo).ToList();
        var thin = ThinGroups.Of(
            [.. people.Select(p => attributes.Select(a => p.Values.GetValueOrDefault(a.Id)).ToList())],
            [.. people.Select(p => heard.Contains(p.Id))]
        );
        var sessions = SessionsOf();
        var added = NewInformation.Of([.. sessions.Select(s => s.Heard)]);
        return new WhoNextShown(
            people.Count(p => heard.Contains(p.Id)),
            people.Count,
            [
                .. thin.Where(g => g.Values.Count == 1).Take(MostGroups).Select(GroupOf),
                .. thin.Where(g => g.Values.Count > 1).Take(MostCombinations).Select(GroupOf),
            ],
            [.. looked.Select(OneVoiceOf).OfType<OneVoice>().OrderByDescending(v => v.Observations)],
            [
                .. sessions.Zip(
                    added,
                    (s, a) =>
                        new SessionLine(
                            s.First.Id,
                            s.First.Title,
                            s.First.HeldOn,
                            a.Tags,
                            [.. a.NewTags.Select(t => index.Tags[t])],
                            a.NewVoices
                        )
                ),
            ],
            NewInformation.RunOf(added)
        );

        bool IsLookedAt(int at)
        {
            if (questionId is { } question && !all[at].QuestionIds.Contains(question))
                return false;
            for (var above = (ThemeId?)all[at].Id; themeId is not null && above != themeId; above = ParentOf(above.Value))
            {
                if (above is null)
                    return false;
            }
            return true;
        }

        ThemeId? ParentOf(ThemeId id) => all.First(t => t.Id == id).ParentId;

        bool IsIn(Participant person, ThinGroup group) =>
            group.Values.All(v => person.Values.GetValueOrDefault(attributes[v.Attribute].Id) == v.Value);

        WhoNextGroup GroupOf(ThinGroup group)
        {
            var members = people.Where(p => IsIn(p, group)).Select(p => p.Id).ToList();
            return new WhoNextGroup(
                [.. group.Values.Select(v => new SharedValue(attributes[v.Attribute].Id, attributes[v.Attribute].Name, v.Value))],
                group.People,
                group.Heard,
                group.Expected,
                [.. members.Where(m => !heard.Contains(m)).Take(MostNamed)],
                members.Count == 0 ? [] : AskAbout(members)
            );
        }

        // A theme says it for those under it.
        List<ThemeId> AskAbout(List<ParticipantId> members)
        {
            var without = looked.Zip(heardOn).Where(t => t.Second.Count > 0 && !members.Exists(t.Second.Contains)).ToList();
            var ids = without.Select(t => all[t.First].Id).ToHashSet();
            return
            [
                .. without
                    .Where(t => all[t.First].ParentId is not { } parent || !ids.Contains(parent))
                    .OrderByDescending(t => t.Second.Count)
                    .Take(MostAsked)
                    .Select(t => all[t.First].Id),
            ];
        }

        OneVoice? OneVoiceOf(int theme)
        {
            var supporting = contents[theme].Where(p => p.Stance == Stance.Supports).Select(p => p.Observation).ToList();
            var voices = supporting.Select(index.PersonOf).OfType<ParticipantId>().Distinct().ToList();
            if (voices.Count != 1)
                return null;
            var on = contents[theme].Select(p => index.PersonOf(p.Observation)).OfType<ParticipantId>().ToHashSet();
            var others = people.Count(p => index.PlaceOfPerson(p.Id) is { } at && index.InScope[at] && !on.Contains(p.Id));
            return new OneVoice(all[theme].Id, voices[0], supporting.Count, others);
        }

        // Where somebody talks; what was marked in it, of what is looked at.
        List<(SourceLine First, List<TagHeard> Heard)> SessionsOf()
        {
            var bySource = places.ToLookup(o => index.Sources[index.Marks.SourceOf[o]].Id);
            return
            [
                .. sources
                    .In(studyId, viewer)
                    .Where(s => s.Kind is not (SourceKind.Survey or SourceKind.Feedback or SourceKind.Document))
                    .GroupBy(s => s.SessionId is { } session ? (1, session.Value) : (0, s.Id.Value))
                    .Select(s => (First: s.First(), Marks: s.SelectMany(one => bySource[one.Id]).ToList()))
                    .Where(s => s.Marks.Count > 0)
                    .OrderBy(s => s.First.HeldOn ?? DateOnly.MaxValue)
                    .Select(s =>
                        (
                            s.First,
                            s.Marks.SelectMany(o => index.Marks.TagsOn(o).ToArray().Select(t => new TagHeard(t, index.Marks.PersonOf[o])))
                                .ToList()
                        )
                    ),
            ];
        }
    }
}
