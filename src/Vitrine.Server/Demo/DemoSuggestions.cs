using Vitrine.Core.Sort.Suggestions;
using Vitrine.Server.Http;
using Vitrine.Server.Sort.Suggestions;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Demo;

/// <summary>Suggestions that are half looked through.</summary>
/// <param name="Tags">The tags for which themes were asked.</param>
/// <param name="Claims">What groups claim, by a tag in each.</param>
/// <param name="Yes">What was accepted; a theme of that claim is the one that it made.</param>
internal sealed record DemoSuggested(
    IReadOnlyList<string> Tags,
    IReadOnlyDictionary<string, string> Claims,
    IReadOnlyList<string> Yes,
    IReadOnlyList<string> No,
    IReadOnlyList<string> Later
);

internal sealed partial class DemoLoader
{
    /// <summary>Asks for themes from tags, and answers some; the themes that this has made, by their claims.</summary>
    private async Task<Dictionary<string, ThemeId>> LoadSuggestions(StudyId studyId, DemoSuggested suggested)
    {
        // Also those that were made while reading.
        var named = (await Get<IReadOnlyList<Tag>>($"studies/{studyId}/tags")).ToDictionary(t => t.Name, t => t.Id);
        var asked = new SuggestionAsked(SuggestionKind.Themes, [.. suggested.Tags.Select(t => named[t])], [], []);
        var id = (await Post<Step>($"studies/{studyId}/suggestions", asked)).Id!.Value;
        var items = (await Get<SuggestionView>($"suggestions/{id}")).Items.ToDictionary(i => i.TagId!.Value);
        foreach (var (tag, claim) in suggested.Claims)
            await Put($"suggested-groups/{items[named[tag]].GroupId}/title", new NewText(claim, ""));
        await Answer(SuggestionAnswer.Accepted, suggested.Yes);
        await Answer(SuggestionAnswer.Refused, suggested.No);
        await Answer(SuggestionAnswer.Later, suggested.Later);
        var themes = (await Get<SuggestionView>($"suggestions/{id}")).Groups.Where(g => g.ThemeId is not null);
        return themes.ToDictionary(g => g.Title, g => g.ThemeId!.Value);

        async Task Answer(SuggestionAnswer answer, IEnumerable<string> which) =>
            await Post<Step>(
                $"suggestions/{id}/answers",
                new SuggestionAnswers([.. which.Select(t => new SuggestionAnswered(items[named[t]].Id, null))], answer)
            );
    }
}
