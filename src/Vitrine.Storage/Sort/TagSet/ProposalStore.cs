using Dapper;
using Vitrine.Core.Access;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Sort.TagSet;

/// <summary>What the steward answered.</summary>
public enum ProposalOutcome
{
    /// <summary>Every study shares it.</summary>
    Accepted,

    /// <summary>It was merged into a tag that every study shares.</summary>
    Merged,
    Declined,
}

/// <summary>A study's own tag that is proposed to the shared set.</summary>
public sealed record TagProposal
{
    public StudyId StudyId { get; init; }
    public string Study { get; init; } = "";

    /// <summary>The tag; after a merge, the one that it went into.</summary>
    public TagId TagId { get; init; }

    /// <summary>What it was called when it was proposed.</summary>
    public string Name { get; init; } = "";

    /// <summary>Why other studies may want it.</summary>
    public string Words { get; init; } = "";
    public string ProposedBy { get; init; } = "";
    public DateTimeOffset ProposedAt { get; init; }

    /// <summary>Null while nobody has answered.</summary>
    public ProposalOutcome? Outcome { get; init; }
    public string Answer { get; init; } = "";
    public string? AnsweredBy { get; init; }
}

/// <summary>Proposals of studies' own tags to the set that every study shares.</summary>
public sealed class ProposalStore(Workspace workspace)
{
    /// <summary>Proposals of the studies that a person sees (null: all): those that wait first, each kind newest first.</summary>
    public IReadOnlyList<TagProposal> In(IReadOnlyList<StudyId>? visible)
    {
        using var connection = workspace.Open();
        return connection
            .Query<TagProposal>(
                """
                SELECT o.study_id, s.title AS study, o.tag_id, o.name, o.words, a.name AS proposed_by, o.created_at AS proposed_at,
                  o.outcome, o.answer, b.name AS answered_by
                FROM tag_proposal o JOIN study s ON s.id = o.study_id JOIN account a ON a.id = o.created_by
                LEFT JOIN account b ON b.id = o.answered_by
                WHERE @visible IS NULL OR o.study_id IN (SELECT value FROM json_each(@visible))
                ORDER BY o.outcome IS NULL DESC, o.id DESC
                """,
                new { visible = Ids.Json(visible) }
            )
            .ToList();
    }

    /// <summary>Proposes a study's own tag.</summary>
    /// <exception cref="Refusal">It is shared already, or waits already.</exception>
    public Step Propose(Actor actor, StudyId studyId, TagId tagId, string words) =>
        workspace.Write(
            actor,
            studyId,
            "Proposed a tag",
            writing =>
            {
                var tag = OwnOf(writing, studyId, tagId);
                if (Waiting(writing, studyId, tagId) is not null)
                    throw Refusal.Because($"“{tag.Name}” is proposed already; the steward has not answered yet.", "tagId");
                writing.Label = $"Proposed the tag “{tag.Name}” for the shared set";
                writing.Insert(
                    "tag_proposal",
                    new
                    {
                        studyId,
                        tagId,
                        tag.Name,
                        words,
                    }
                );
                return tagId.Value;
            }
        );

    /// <summary>Takes a proposal back that nobody has answered.</summary>
    public Step TakeBack(Actor actor, StudyId studyId, TagId tagId) =>
        workspace.Write(
            actor,
            studyId,
            "Withdrew a proposal",
            writing =>
            {
                var proposal = Waiting(writing, studyId, tagId) ?? throw Answered();
                writing.Label = $"Withdrew the proposal of the tag “{OwnOf(writing, studyId, tagId).Name}”";
                writing.Delete("tag_proposal", proposal);
                return tagId.Value;
            }
        );

    /// <summary>The steward takes it into the shared set, under its name or another.</summary>
    /// <param name="name">What it is called from now on; null for as it is.</param>
    public Step Accept(Actor actor, StudyId studyId, TagId tagId, TagName? name, string answer)
    {
        StewardOnly(actor);
        return workspace.Write(
            actor,
            null,
            "Accepted a tag",
            writing =>
            {
                var proposal = Waiting(writing, studyId, tagId) ?? throw Answered();
                var tag = OwnOf(writing, studyId, tagId);
                var called = name ?? TagName.Read(tag.Name, out _)!;
                if (TagNames.Find(writing.Connection, null, called) is not null)
                    throw Refusal.Because($"Every study shares a tag “{called.Shown}” already. Rename this one, or merge them.", "name");
                RefuseOwnMembers(writing, tag);
                writing.Label = $"Took the {(tag.Members is null ? "tag" : "bundle")} “{called.Shown}” into the shared set";
                // What stands above it in the study may be the study's own: it stands under the nearest that every study shares.
                var parent = tag.ParentId;
                while (parent is { } above && TagStore.Find(writing.Connection, above) is { StudyId: not null } own)
                    parent = own.ParentId;
                writing.Update(
                    "tag",
                    tagId.Value,
                    new
                    {
                        studyId = (long?)null,
                        parentId = parent,
                        name = called.Shown,
                        nameKey = called.Key,
                    }
                );
                Answer(writing, actor, proposal, "accepted", answer);
                return tagId.Value;
            }
        );
    }

    /// <summary>The steward merges it into a tag that every study shares; its name stays as another name of that one.</summary>
    public Step Merge(Actor actor, StudyId studyId, TagId tagId, TagId into, string answer)
    {
        StewardOnly(actor);
        return workspace.Write(
            actor,
            null,
            "Merged a tag",
            writing =>
            {
                var proposal = Waiting(writing, studyId, tagId) ?? throw Answered();
                OwnOf(writing, studyId, tagId);
                var stays = TagStore.Find(writing.Connection, into) is { StudyId: null } shared ? shared : throw Refusal.Missing("tag");
                Answer(writing, actor, proposal, "merged", answer);
                return TagMerge.MergeIn(writing, actor, into, [tagId], stays.Definition, stays.IsNot).Value;
            }
        );
    }

    /// <summary>The steward leaves it to its study, and says why.</summary>
    public Step Decline(Actor actor, StudyId studyId, TagId tagId, string answer)
    {
        StewardOnly(actor);
        return workspace.Write(
            actor,
            studyId,
            "Declined a tag",
            writing =>
            {
                var proposal = Waiting(writing, studyId, tagId) ?? throw Answered();
                writing.Label = $"Left the tag “{OwnOf(writing, studyId, tagId).Name}” to its study";
                Answer(writing, actor, proposal, "declined", answer);
                return tagId.Value;
            }
        );
    }

    private static void Answer(Writing writing, Actor actor, long proposal, string outcome, string answer) =>
        writing.Update(
            "tag_proposal",
            proposal,
            new
            {
                outcome,
                answer,
                answeredBy = actor.AccountId,
            }
        );

    private static void StewardOnly(Actor actor)
    {
        if (actor.Role != Role.Steward)
            throw new Refusal(RefusalKind.NotAllowed, "The steward answers what is proposed for the shared set.");
    }

    private static void RefuseOwnMembers(Writing writing, Tag bundle)
    {
        if ((bundle.Members ?? []).Any(m => TagStore.Find(writing.Connection, m) is { StudyId: not null }))
            throw Refusal.Because("This bundle holds tags of its study alone. They come into the shared set first.", "tagId");
    }

    private static Refusal Answered() => Refusal.Because("This proposal is answered or withdrawn already. Reload the page.", "tagId");

    private static long? Waiting(Writing writing, StudyId studyId, TagId tagId) =>
        writing.Connection.QueryFirstOrDefault<long?>(
            "SELECT id FROM tag_proposal WHERE study_id = @studyId AND tag_id = @tagId AND outcome IS NULL",
            new { studyId, tagId }
        );

    private static Tag OwnOf(Writing writing, StudyId studyId, TagId tagId)
    {
        var tag =
            TagStore.Find(writing.Connection, tagId) is { } found && (found.StudyId is null || found.StudyId == studyId)
                ? found
                : throw Refusal.Missing("tag");
        return tag.StudyId is null ? throw Refusal.Because($"Every study shares “{tag.Name}” already.", "tagId") : tag;
    }
}
