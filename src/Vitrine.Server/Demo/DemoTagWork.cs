using Vitrine.Core.Sort.TagSet;
using Vitrine.Server.Sort.TagSet;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Demo;

/// <summary>What is being done to the tag set: a tag that is proposed, one that is split half, bundles.</summary>
internal sealed partial class DemoLoader
{
    private async Task LoadTagWork(StudyId studyId, DemoStudy study, Func<string, ObservationId> observation)
    {
        var named = (await Get<IReadOnlyList<Tag>>($"studies/{studyId}/tags")).ToDictionary(t => t.Name, t => t.Id);
        foreach (var proposal in study.Proposals ?? [])
        {
            await As(proposal.By);
            await Post<Step>($"studies/{studyId}/tags/{named[proposal.Tag]}/proposal", new ProposedTag(proposal.Words));
        }
        foreach (var bundle in study.Bundles ?? [])
        {
            var made = await Post<Step>(
                bundle.Shared ? "tags/bundles" : $"studies/{studyId}/tags/bundles",
                new NewBundle(bundle.Name, [.. bundle.Tags.Select(t => named[t])])
            );
            await Put($"tags/{made.Id}", new ChangedTag(new TagText(bundle.Name, null, null, bundle.Definition, true, null), 1));
        }
        foreach (var split in study.Splits ?? [])
        {
            var at = $"studies/{studyId}/tags/{named[split.Tag]}/split";
            for (var i = 0; i < split.Trays.Count; i++)
                await Put($"{at}/trays/{i + 1}", new TrayTag(null, split.Trays[i]));
            foreach (var (quote, tray) in split.Sent)
            {
                var outcome = tray switch
                {
                    0 => SplitOutcome.Wide,
                    10 => SplitOutcome.Unsure,
                    _ => SplitOutcome.Trays,
                };
                await Post<object?>(
                    $"{at}/decisions",
                    new SplitDecided([observation(quote)], outcome, outcome == SplitOutcome.Trays ? [tray] : [])
                );
            }
        }
    }
}
