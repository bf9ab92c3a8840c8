using Dapper;
using Vitrine.Core.Gather;
using Vitrine.Core.Privacy;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Gather;

/// <summary>The type of an attribute's values.</summary>
public enum AttributeKind
{
    Choice,
    Number,
    Date,
    YesNo,
    Text,
}

/// <summary>A fact that can be known about each participant of a study.</summary>
public sealed record ParticipantAttribute
{
    public long Id { get; init; }
    public string Name { get; init; } = "";
    public AttributeKind Kind { get; init; }
}

/// <summary>A person who was studied. The real name stays with the team.</summary>
public sealed record Participant
{
    public long Id { get; init; }
    public string Code { get; init; } = "";
    public string Pseudonym { get; init; } = "";
    public string? RealName { get; init; }
    public Dictionary<long, string> Values { get; init; } = [];
}

/// <summary>Everyone in a study, in their fixed order, with the attributes known of them.</summary>
public sealed record Participants(IReadOnlyList<ParticipantAttribute> Attributes, IReadOnlyList<Participant> People);

/// <summary>Participants and their attributes.</summary>
public sealed class ParticipantStore(Workspace workspace)
{
    public Participants In(long studyId)
    {
        using var connection = workspace.Open();
        using var snapshot = connection.BeginTransaction(deferred: true);
        var attributes = connection.Query<ParticipantAttribute>("SELECT id, name, kind FROM attribute WHERE study_id = @studyId ORDER BY position, id", new { studyId }).ToList();
        var people = connection.Query<Participant>("SELECT id, code, pseudonym, real_name FROM participant WHERE study_id = @studyId ORDER BY position, id", new { studyId }).ToList();
        var byId = people.ToDictionary(p => p.Id);
        var values = connection.Query<(long Person, long Attribute, string Value)>(
            "SELECT v.participant_id, v.attribute_id, v.value FROM attribute_value v JOIN participant p ON p.id = v.participant_id WHERE p.study_id = @studyId", new { studyId });
        foreach (var (person, attribute, value) in values) byId[person].Values[attribute] = value;
        return new Participants(attributes, people);
    }

    /// <summary>How each participant may be called in a transcript.</summary>
    public IReadOnlyList<KnownParticipant> Known(long studyId) =>
        In(studyId).People.Select(p => new KnownParticipant(p.Id, p.Code, p.Pseudonym, p.RealName)).ToList();

    /// <summary>Everyone whose real name must not leave the team, over all studies.</summary>
    public IReadOnlyList<NamedPerson> Named()
    {
        using var connection = workspace.Open();
        return connection.Query<(string RealName, string Pseudonym)>("SELECT real_name, pseudonym FROM participant WHERE real_name IS NOT NULL").Select(p => new NamedPerson(p.RealName, p.Pseudonym)).ToList();
    }

    public Step Add(Actor actor, long studyId, string code, string pseudonym, string? realName) => workspace.Write(actor, studyId, $"Added participant {code} {pseudonym}", writing =>
    {
        RefuseTaken(writing, studyId, code, null);
        var position = writing.Connection.ExecuteScalar<long>("SELECT coalesce(max(position), 0) + 1 FROM participant WHERE study_id = @studyId", new { studyId });
        return writing.Insert("participant", new { studyId, code, pseudonym, realName, position });
    });

    public Step Change(Actor actor, long studyId, long id, string code, string pseudonym, string? realName) => workspace.Write(actor, studyId, $"Changed participant {code} {pseudonym}", writing =>
    {
        RefuseTaken(writing, studyId, code, id);
        writing.Update("participant", id, new { code, pseudonym, realName });
        return id;
    });

    public Step Remove(Actor actor, long studyId, long id) => workspace.Write(actor, studyId, "Removed a participant", writing =>
    {
        var name = writing.Connection.QueryFirstOrDefault<string>("SELECT code || ' ' || pseudonym FROM participant WHERE id = @id", new { id }) ?? throw Refusal.Missing("participant");
        writing.Label = $"Removed participant {name}";
        foreach (var speaker in writing.Connection.Query<long>("SELECT id FROM speaker WHERE participant_id = @id", new { id })) writing.Update("speaker", speaker, new { participantId = (long?)null });
        writing.DeleteAll("source_participant", "participant_id", id);
        writing.DeleteAll("attribute_value", "participant_id", id);
        writing.DeleteAll("not_asked", "participant_id", id);
        writing.Delete("participant", id);
        return id;
    });

    public Step AddAttribute(Actor actor, long studyId, string name, AttributeKind kind) => workspace.Write(actor, studyId, $"Added the attribute “{name}”", writing =>
    {
        var names = writing.Connection.Query<string>("SELECT name FROM attribute WHERE study_id = @studyId", new { studyId });
        if (names.Contains(name, StringComparer.OrdinalIgnoreCase)) throw Refusal.Because($"There is an attribute “{name}” already.", "name");
        return writing.Insert("attribute", new { studyId, name, kind, position = names.Count() });
    });

    public Step RemoveAttribute(Actor actor, long studyId, long id) => workspace.Write(actor, studyId, "Removed an attribute", writing =>
    {
        writing.Label = $"Removed the attribute “{writing.Connection.QueryFirstOrDefault<string>("SELECT name FROM attribute WHERE id = @id", new { id })}”";
        writing.DeleteAll("attribute_value", "attribute_id", id);
        writing.Delete("attribute", id);
        return id;
    });

    /// <summary>Sets one fact about one person; null or empty takes it away.</summary>
    public Step SetValue(Actor actor, long studyId, long participantId, long attributeId, string? value) => workspace.Write(actor, studyId, "Changed an attribute of a participant", writing =>
    {
        var found = writing.Connection.QueryFirstOrDefault<long?>("SELECT id FROM attribute_value WHERE participant_id = @participantId AND attribute_id = @attributeId", new { participantId, attributeId });
        if (string.IsNullOrWhiteSpace(value))
        {
            if (found is { } gone) writing.Delete("attribute_value", gone);
        }
        else if (found is { } id)
        {
            writing.Update("attribute_value", id, new { value });
        }
        else
        {
            writing.Insert("attribute_value", new { participantId, attributeId, value });
        }
        return participantId;
    });

    private static void RefuseTaken(Writing writing, long studyId, string code, long? exceptId)
    {
        var holder = writing.Connection.QueryFirstOrDefault<string>(
            "SELECT pseudonym FROM participant WHERE study_id = @studyId AND code = @code COLLATE NOCASE AND id IS NOT @exceptId", new { studyId, code, exceptId });
        if (holder is not null) throw Refusal.Because($"{code} is {holder} already. Give this person another code.", "code");
    }
}
