using Vitrine.Core.Counting;
using Vitrine.Core.Tagging;
using Vitrine.Server.Access;
using Vitrine.Storage;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Access;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Tags;

namespace Vitrine.Server.Mark;

internal sealed record TagText(string Name, [IdOf(Thing.Tag)] long? ParentId, int? Colour, string Definition, bool Settled, Scale? Scale);

internal sealed record ChangedTag(TagText Text, long Version);

/// <summary>How a study uses a tag: counted with all tags under it, and alone.</summary>
internal sealed record TagCount(long TagId, Breadth Breadth, Triple Own);

internal static class TagEndpoints
{
    public static void MapTags(this RouteGroupBuilder api)
    {
        var set = api.MapGroup("/tags").WithTags("Tag set").About(Thing.Tag);
        set.MapGet("", (SignedIn me, TagStore store, StudyAccess access) => store.In(access.VisibleTo(me.Viewer)));
        set.MapPost("", (TagText given, SignedIn me, TagStore store) =>
            store.Add(me.Actor, null, Given.TagNameOf(given.Name), given.ParentId, given.Colour, Given.Optional(given.Definition, "definition"), given.Settled, Checked(given.Scale)));
        set.MapPut("/{id:long}", (long id, ChangedTag given, SignedIn me, TagStore store) => store.Change(
            me.Actor, id, given.Version, Given.TagNameOf(given.Text.Name), given.Text.ParentId, given.Text.Colour, Given.Optional(given.Text.Definition, "definition"), given.Text.Settled, Checked(given.Text.Scale)));
        set.MapGet("/{id:long}/reach", (long id, SignedIn me, TagStore store, StudyAccess access) => store.ReachOf(id, access.VisibleTo(me.Viewer)));
        set.MapDelete("/{id:long}", (long id, SignedIn me, TagStore store) => store.Remove(me.Actor, id));

        // What tags are called changes seldom, how often they are used with every mark.
        api.MapGet("/studies/{studyId:long}/tags", (long studyId, TagStore store) => store.For(studyId)).WithTags("Mark");
        api.MapGet("/studies/{studyId:long}/tag-counts", (long studyId, StudyIndexStore indexes, NotAskedStore notAsked) =>
        {
            var index = indexes.Load(studyId);
            var byTag = Tally.ByTag(index.Marks, rollUp: true);
            var own = Tally.OfEach(index.Marks, Tally.ByTag(index.Marks, rollUp: false));
            var silent = notAsked.In(studyId, AskedThing.Tag);
            return index.Tags.Select((id, place) => new TagCount(id, Breadth.Of(index.Marks, byTag[place], index.InScope, index.PlacesOfPeople(silent[id])), own[place])).ToList();
        }).WithTags("Mark");
    }

    private static Scale? Checked(Scale? scale)
    {
        if (scale?.Problem() is { } problem) throw Refusal.Because(problem, "scale");
        return scale is null ? null : scale with { Unit = Name(scale.Unit), LowLabel = Name(scale.LowLabel), HighLabel = Name(scale.HighLabel) };

        static string Name(string given) => Given.Optional(given, "scale", Limits.Name);
    }
}
