using System.Globalization;
using Dapper;
using Vitrine.Core.Tagging;
using Vitrine.Core.Text;
using Vitrine.Storage.Quotes;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Mark;

/// <summary>A marked stretch of a source.</summary>
public sealed record Observation
{
    public long Id { get; init; }
    public long SourceId { get; init; }
    public int Start { get; init; }
    public int End { get; init; }
    public string Note { get; init; } = "";
    public Sentiment? Sentiment { get; init; }
    public bool Starred { get; init; }
    public long Version { get; init; }
    public string CreatedBy { get; init; } = "";
    public string CreatedAt { get; init; } = "";
    public List<long> TagIds { get; init; } = [];

    /// <summary>Values on the scales of its tags, by tag; only those that were given.</summary>
    public Dictionary<long, double> Values { get; init; } = [];
}

/// <summary>Observations: marking, tagging, noting.</summary>
public sealed class ObservationStore(Workspace workspace)
{
    private const string Columns = """
        SELECT o.id, o.source_id, o.start, o."end", o.note, o.sentiment, o.starred, o.version, a.name AS created_by, o.created_at
        FROM observation o JOIN account a ON a.id = o.created_by

        """;

    /// <summary>A source's observations in text order.</summary>
    public IReadOnlyList<Observation> In(long sourceId)
    {
        using var connection = workspace.Open();
        using var snapshot = connection.BeginTransaction(deferred: true);
        var observations = connection.Query<Observation>(Columns + "WHERE o.source_id = @sourceId ORDER BY o.start, o.\"end\" DESC, o.id", new { sourceId }).AsList();
        var byId = observations.ToDictionary(o => o.Id);
        foreach (var (observation, tag, value) in connection.Query<(long, long, double?)>("SELECT x.observation_id, x.tag_id, x.value FROM observation_tag x JOIN observation o ON o.id = x.observation_id WHERE o.source_id = @sourceId ORDER BY x.id", new { sourceId }))
        {
            byId[observation].TagIds.Add(tag);
            if (value is { } given) byId[observation].Values[tag] = given;
        }
        return observations;
    }

    private long StudyOfSource(long sourceId)
    {
        using var connection = workspace.Open();
        return connection.QueryFirstOrDefault<long?>("SELECT study_id FROM source WHERE id = @sourceId", new { sourceId }) ?? throw Refusal.Missing("source");
    }

    public long StudyOf(long id)
    {
        using var connection = workspace.Open();
        return connection.QueryFirstOrDefault<long?>("SELECT study_id FROM observation WHERE id = @id", new { id }) ?? throw Refusal.Missing("observation");
    }

    /// <summary>
    /// Marks a stretch and tags it, as one step. The same stretch marked again by the same person gets the tags added.
    /// </summary>
    public Step Make(Actor actor, long sourceId, int start, int end, IReadOnlyList<long> tagIds, IReadOnlyList<TagName> newTags)
    {
        var studyId = StudyOfSource(sourceId);
        return workspace.Write(actor, studyId, "Marked a stretch", writing =>
        {
            var text = writing.Connection.QuerySingle<string>("SELECT text FROM source_text WHERE source_id = @sourceId", new { sourceId });
            var range = TextRange.Tidy(text, start, end) ?? throw Refusal.Because("There are no words in this selection. Select some words and try again.", "start");
            writing.Label = $"Marked “{Excerpt.Beginning(range.Of(text))}”";
            var same = writing.Connection.QueryFirstOrDefault<long?>(
                "SELECT id FROM observation WHERE source_id = @sourceId AND start = @Start AND \"end\" = @End AND created_by = @AccountId", new { sourceId, range.Start, range.End, actor.AccountId });
            var id = same ?? writing.Insert("observation", new { studyId, sourceId, range.Start, range.End });
            AddTags(writing, id, [.. tagIds, .. TagStore.FindOrMake(writing, studyId, newTags)]);
            return id;
        });
    }

    /// <summary>Puts an observation on another stretch of its source. Whatever was to be looked at about its words is settled by it.</summary>
    public Step Move(Actor actor, long id, int start, int end) => workspace.Write(actor, StudyOf(id), "Moved an observation", writing =>
    {
        var text = writing.Connection.QuerySingle<string>("SELECT t.text FROM source_text t JOIN observation o ON o.source_id = t.source_id WHERE o.id = @id", new { id });
        var range = TextRange.Tidy(text, start, end) ?? throw Refusal.Because("There are no words in this selection. Select some words and try again.", "start");
        writing.Label = $"Put an observation on “{Excerpt.Beginning(range.Of(text))}”";
        writing.Update("observation", id, new { range.Start, range.End });
        writing.DeleteAll("correction_look", "observation_id", id);
        return id;
    });

    /// <summary>Rewrites the note that the person saw as <paramref name="was"/>.</summary>
    public Step SetNote(Actor actor, long id, string was, string note) => workspace.Write(actor, StudyOf(id), "Wrote a note on an observation", writing =>
    {
        writing.Rewrite("observation", id, "note", was, note);
        return id;
    });

    public Step SetSentiment(Actor actor, long id, Sentiment? sentiment) =>
        Change(actor, id, sentiment is null ? "Took a sentiment away" : $"Set the sentiment {sentiment.ToString()!.ToLowerInvariant()}", new { sentiment });

    public Step SetStar(Actor actor, long id, bool starred) => Change(actor, id, starred ? "Starred an observation" : "Took a star away", new { starred });

    private Step Change(Actor actor, long id, string label, object change) => workspace.Write(actor, StudyOf(id), label, writing =>
    {
        writing.Update("observation", id, change);
        return id;
    });

    /// <summary>Puts tags on many observations as one step.</summary>
    public Step Tag(Actor actor, long studyId, IReadOnlyList<long> ids, IReadOnlyList<long> tagIds, IReadOnlyList<TagName> newTags) =>
        workspace.Write(actor, studyId, ids.Count == 1 ? "Tagged an observation" : $"Tagged {ids.Count} observations", writing =>
        {
            var tags = tagIds.Concat(TagStore.FindOrMake(writing, studyId, newTags)).ToList();
            foreach (var id in ids) AddTags(writing, id, tags);
        });

    public Step Untag(Actor actor, long id, long tagId) => workspace.Write(actor, StudyOf(id), "Took a tag off an observation", writing =>
    {
        var link = writing.Connection.QueryFirstOrDefault<(long Id, string Name)>(
            "SELECT x.id, t.name FROM observation_tag x JOIN tag t ON t.id = x.tag_id WHERE x.observation_id = @id AND x.tag_id = @tagId", new { id, tagId });
        writing.Label = $"Took “{link.Name}” off an observation";
        writing.Delete("observation_tag", link.Id);
        return id;
    });

    /// <summary>Gives an observation a value on the scale of one of its tags, or for null takes it away.</summary>
    public Step SetValue(Actor actor, long id, long tagId, double? value) => workspace.Write(actor, StudyOf(id), "Gave a value", writing =>
    {
        var (link, name, scale) = writing.Connection.QueryFirstOrDefault<(long, string, Scale?)?>("SELECT x.id, t.name, t.scale FROM observation_tag x JOIN tag t ON t.id = x.tag_id WHERE x.observation_id = @id AND x.tag_id = @tagId", new { id, tagId }) ?? throw Refusal.Missing("tag");
        if (scale is null) throw Refusal.Because($"“{name}” carries no scale. Give it one in the tag set first.", "value");
        if (value is { } given && !scale.Fits(given)) throw Refusal.Because(string.Create(CultureInfo.InvariantCulture, $"“{name}” goes from {scale.Least} to {scale.Most} in steps of {scale.Step}; {given} is not on it."), "value");
        writing.Label = value is { } v ? string.Create(CultureInfo.InvariantCulture, $"Gave “{name}” the value {v}") : $"Took the value of “{name}” away";
        writing.Update("observation_tag", link, new { value });
        return id;
    });

    /// <summary>Removes observations as one step.</summary>
    public Step Remove(Actor actor, long studyId, IReadOnlyList<long> ids) =>
        workspace.Write(actor, studyId, ids.Count == 1 ? "Removed an observation" : $"Removed {ids.Count} observations", writing =>
        {
            foreach (var id in ids) ObservationRows.Remove(writing, id);
        });

    private static void AddTags(Writing writing, long id, IReadOnlyList<long> tagIds)
    {
        var there = writing.Connection.Query<long>("SELECT tag_id FROM observation_tag WHERE observation_id = @id", new { id });
        foreach (var tagId in tagIds.Distinct().Except(there)) writing.Insert("observation_tag", new { observationId = id, tagId });
    }
}
