using Vitrine.Core.Weigh.Evidence;
using Vitrine.Server.Http;
using Vitrine.Server.Sort.Themes;
using Vitrine.Storage.Gather.Studies;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Demo;

/// <summary>What is laid out on the sorting table.</summary>
internal sealed partial class DemoLoader
{
    private async Task LoadThemes(StudyId studyId, DemoStudy study, Func<string, ObservationId> observation)
    {
        var questions = await Get<IReadOnlyList<ResearchQuestion>>($"studies/{studyId}/research-questions");
        var themes = new Dictionary<string, ThemeId>();
        foreach (var theme in study.Themes)
        {
            var id = study.Suggested?.Claims.Values.Contains(theme.Title) == true ? await Suggested(theme) : await Made(theme);
            themes[theme.Title] = id;
            foreach (var stance in (Stance[])[Stance.Contradicts, Stance.Context])
            {
                if (Quoted(theme, stance) is { Count: > 0 } pieces)
                    await Put($"themes/{id}/stance", new StanceOfPieces(pieces, stance));
            }
            if (theme.Questions is { } answered)
                await Put($"themes/{id}/questions", new ThemeQuestions([.. answered.Select(n => questions[n - 1].Id)]));
        }
        if (study.LeftOut is { } leftOut)
            await Put($"studies/{studyId}/left-out", new LeavingOut([.. leftOut.Select(observation)], true));

        async Task<ThemeId> Made(DemoTheme theme)
        {
            var given = new NewTheme(
                theme.Title,
                theme.Description,
                theme.Under is null ? null : themes[theme.Under],
                Quoted(theme, Stance.Supports),
                [.. theme.Tags.Select(t => tags[t])]
            );
            return (await Post<Step>($"studies/{studyId}/themes", given)).Id!.Value;
        }

        async Task<ThemeId> Suggested(DemoTheme theme)
        {
            var id = (await LoadSuggestions(studyId, study.Suggested!))[theme.Title];
            await Put($"themes/{id}/description", new NewText(theme.Description, ""));
            return id;
        }

        List<ObservationId> Quoted(DemoTheme theme, Stance stance) => [.. theme.Evidence.GetValueOrDefault(stance, []).Select(observation)];
    }
}
