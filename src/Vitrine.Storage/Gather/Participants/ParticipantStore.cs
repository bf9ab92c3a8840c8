using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Gather.Participants;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Gather.Turns;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Gather.Participants;

/// <summary>Participants and their attributes.</summary>
public sealed class ParticipantStore(Workspace workspace)
{
    /// <summary>Everyone in a study.</summary>
    public Participants In(StudyId studyId) => Page(studyId, 0, int.MaxValue);

    /// <summary>One page of a study's participants.</summary>
    /// <param name="page">Which page, from 0.</param>
    /// <param name="size">How many a page holds.</param>
    public Participants Page(StudyId studyId, int page, int size)
    {
        using var connection = workspace.Open();
        using var snapshot = connection.BeginTransaction(deferred: true);
        var attributes = connection
            .Query<ParticipantAttribute>(
                "SELECT id, name, kind FROM attribute WHERE study_id = @studyId ORDER BY position, id",
                new { studyId }
            )
            .ToList();
        var people = connection
            .Query<Participant>(
                """
                WITH begun AS (SELECT DISTINCT v.participant_id FROM source_person v WHERE v.study_id = @studyId AND v.source_id IN
                  (SELECT source_id FROM reading))
                SELECT id, code, pseudonym, real_name, consent, agreed_by,
                  id IN (SELECT participant_id FROM begun) AS begun FROM participant
                  WHERE study_id = @studyId ORDER BY position, id LIMIT @size OFFSET @before
                """,
                new
                {
                    studyId,
                    size,
                    before = (long)page * size,
                }
            )
            .ToList();
        var byId = people.ToDictionary(p => p.Id);
        var values = connection.Query<(ParticipantId Person, AttributeId Attribute, string Value)>(
            "SELECT participant_id, attribute_id, value FROM attribute_value WHERE participant_id IN (SELECT value FROM json_each(@ids))",
            new { ids = Ids.Json(byId.Keys) }
        );
        foreach (var (person, attribute, value) in values)
            byId[person].Values[attribute] = value;
        var total = connection.ExecuteScalar<int>("SELECT count(*) FROM participant WHERE study_id = @studyId", new { studyId });
        return new Participants(attributes, people, total);
    }

    /// <summary>How each participant may be called in a transcript.</summary>
    public IReadOnlyList<KnownParticipant> Known(StudyId studyId) =>
        In(studyId).People.Select(p => new KnownParticipant(p.Id, p.Code, p.Pseudonym, p.RealName)).ToList();

    /// <summary>
    /// Everyone in the given studies whose real name must not leave the team. Another study's names are looked for nowhere: who finds one
    /// replaced would have learnt it.
    /// </summary>
    public IReadOnlyList<NamedPerson> Named(IEnumerable<StudyId> studyIds)
    {
        using var connection = workspace.Open();
        return connection
            .Query<(string RealName, string Pseudonym)>(
                """
                SELECT real_name, pseudonym FROM participant WHERE real_name IS NOT NULL AND study_id IN (SELECT value
                FROM json_each(@studies))
                """,
                new { studies = Ids.Json(studyIds) }
            )
            .Select(p => new NamedPerson(p.RealName, p.Pseudonym))
            .ToList();
    }

    /// <param name="code">Null for the next that nobody has.</param>
    public Step Add(Actor actor, StudyId studyId, string? code, string pseudonym, string? realName) =>
        workspace.Write(
            actor,
            studyId,
            "Added a participant",
            writing =>
            {
                var given = code ?? ParticipantCodes.NextIn(writing.Connection, studyId);
                writing.Label = $"Added participant {given} {pseudonym}";
                return Insert(writing, studyId, given, pseudonym, realName).Value;
            }
        );

    /// <exception cref="Refusal">Somebody has this code.</exception>
    internal static ParticipantId Insert(
        Writing writing,
        StudyId studyId,
        string code,
        string pseudonym,
        string? realName,
        AgreedBy? agreedBy = null
    )
    {
        RefuseTaken(writing, studyId, code, null);
        return writing.Insert(
            "participant",
            new
            {
                studyId,
                code,
                pseudonym,
                realName,
                position = NextPosition(writing.Connection, studyId),
                consent = ConsentRule.Noted(agreedBy),
                agreedBy,
            }
        );
    }

    public Step Change(Actor actor, StudyId studyId, ParticipantId id, string code, string pseudonym, string? realName) =>
        workspace.Write(
            actor,
            studyId,
            $"Changed participant {code} {pseudonym}",
            writing =>
            {
                writing.Expect("participant", id.Value, "study_id", studyId.Value);
                RefuseTaken(writing, studyId, code, id);
                writing.Update(
                    "participant",
                    id.Value,
                    new
                    {
                        code,
                        pseudonym,
                        realName,
                    }
                );
                return id.Value;
            }
        );

    public Step Remove(Actor actor, StudyId studyId, ParticipantId id) =>
        workspace.Write(
            actor,
            studyId,
            "Removed a participant",
            writing =>
            {
                var name =
                    writing.Connection.QueryFirstOrDefault<string>(
                        "SELECT code || ' ' || pseudonym FROM participant WHERE id = @id AND study_id = @studyId",
                        new { id, studyId }
                    ) ?? throw Refusal.Missing("participant");
                writing.Label = $"Removed participant {name}";
                writing.Remove("participant", id.Value);
                return id.Value;
            }
        );

    /// <summary>Notes what participants have said to their words being used, as one step.</summary>
    public Step SetConsent(Actor actor, StudyId studyId, IReadOnlyList<ParticipantId> participantIds, Consent consent) =>
        workspace.Write(
            actor,
            studyId,
            participantIds.Count == 1
                ? $"Noted a participant’s consent: {consent.ToString().ToLowerInvariant()}"
                : $"Noted the consent of {participantIds.Count} participants: {consent.ToString().ToLowerInvariant()}",
            writing =>
            {
                foreach (var id in participantIds)
                    writing.Update("participant", id.Value, new { consent, agreedBy = (AgreedBy?)null });
                return null;
            }
        );

    public Step AddAttribute(Actor actor, StudyId studyId, string name, AttributeKind kind) =>
        workspace.Write(
            actor,
            studyId,
            $"Added the attribute “{name}”",
            writing =>
            {
                var names = writing.Connection.Query<string>("SELECT name FROM attribute WHERE study_id = @studyId", new { studyId });
                if (names.Contains(name, StringComparer.OrdinalIgnoreCase))
                    throw Refusal.Because($"There is an attribute “{name}” already.", "name");
                return writing.Insert(
                    "attribute",
                    new
                    {
                        studyId,
                        name,
                        kind,
                        position = names.Count(),
                    }
                );
            }
        );

    public Step RemoveAttribute(Actor actor, StudyId studyId, AttributeId id) =>
        workspace.Write(
            actor,
            studyId,
            "Removed an attribute",
            writing =>
            {
                writing.Expect("attribute", id.Value, "study_id", studyId.Value);
                writing.Label = $"Removed the attribute “{NameOf(writing, id)}”";
                writing.Remove("attribute", id.Value);
                return id.Value;
            }
        );

    /// <summary>
    /// Gives an attribute another name or type. Values that are none of the new type are taken away only when <paramref name="leaveOut"/>
    /// says so.
    /// </summary>
    public Step ChangeAttribute(Actor actor, StudyId studyId, AttributeId id, string name, AttributeKind kind, bool leaveOut) =>
        workspace.Write(
            actor,
            studyId,
            $"Changed the attribute “{name}”",
            writing =>
            {
                writing.Expect("attribute", id.Value, "study_id", studyId.Value);
                if (
                    writing.Connection.ExecuteScalar<bool>(
                        "SELECT count(*) FROM attribute WHERE study_id = @studyId AND name = @name COLLATE NOCASE AND id <> @id",
                        new
                        {
                            studyId,
                            name,
                            id,
                        }
                    )
                )
                    throw Refusal.Because($"There is an attribute “{name}” already.", "name");
                var values = writing
                    .Connection.Query<(long Id, string Value)>(
                        "SELECT id, value FROM attribute_value WHERE attribute_id = @id ORDER BY id",
                        new { id }
                    )
                    .ToList();
                var lost = values.Where(v => AttributeValue.Fit(kind, v.Value) is null).ToList();
                if (lost.Count > 0 && !leaveOut)
                    throw new Refusal(
                        RefusalKind.Conflict,
                        $"{(lost.Count == 1 ? "One value is" : $"{lost.Count} values are")} "
                            + $"not {RefusalSentences.Wanted(kind)}. Say that they may be left out, or change them first.",
                        "kind"
                    );
                foreach (var (value, _) in lost)
                    writing.Delete("attribute_value", value);
                foreach (var (value, raw) in values.Except(lost))
                    writing.Update("attribute_value", value, new { value = AttributeValue.Fit(kind, raw) });
                writing.Update("attribute", id.Value, new { name, kind });
                return id.Value;
            }
        );

    /// <summary>Writes a block of the grid, as one step: what fits is written, and what does not is told cell by cell.</summary>
    public (Step Step, IReadOnlyList<RefusedCell> Refused) SetCells(Actor actor, StudyId studyId, IReadOnlyList<ParticipantCell> cells)
    {
        IReadOnlyList<RefusedCell> refused = [];
        var step = workspace.Write(
            actor,
            studyId,
            cells.Count == 1 ? "Changed what is known of a participant" : $"Changed {cells.Count} cells of the participants",
            writing =>
            {
                var people = writing
                    .Connection.Query<(ParticipantId Id, string Code, string Pseudonym)>(
                        "SELECT id, code, pseudonym FROM participant WHERE study_id = @studyId",
                        new { studyId }
                    )
                    .ToDictionary(p => p.Id, p => new CodedParticipant(p.Code, p.Pseudonym));
                if (cells.Any(c => !people.ContainsKey(c.ParticipantId)))
                    throw Refusal.Missing("participant");
                var attributes = writing
                    .Connection.Query<ParticipantAttribute>(
                        "SELECT id, name, kind FROM attribute WHERE study_id = @studyId",
                        new { studyId }
                    )
                    .ToDictionary(a => a.Id, a => new AttributeForm(a.Name, a.Kind));
                (var taken, refused) = ParticipantCells.Of(cells, people, attributes);
                LetGo(writing, taken, people);
                foreach (var row in taken.GroupBy(c => c.ParticipantId))
                    WriteRow(writing, row.Key, [.. row]);
                return null;
            }
        );
        return (step, refused);
    }

    /// <summary>
    /// Codes that change places: each is let go before somebody else is given it. Nobody can type one that begins with a space.
    /// </summary>
    private static void LetGo(Writing writing, IReadOnlyList<ParticipantCell> cells, Dictionary<ParticipantId, CodedParticipant> people)
    {
        var given = cells.Where(c => c.Column == ParticipantColumn.Code).ToList();
        var holders = given.ToDictionary(c => people[c.ParticipantId].Code, c => c.ParticipantId);
        foreach (var cell in given)
        {
            if (holders.TryGetValue(cell.Value, out var holder) && holder != cell.ParticipantId)
                writing.Update("participant", holder.Value, new { code = $" {holder}" });
        }
    }

    private static void WriteRow(Writing writing, ParticipantId participantId, IReadOnlyList<ParticipantCell> cells)
    {
        var own = cells
            .Where(c => c.Column != ParticipantColumn.Attribute)
            .ToDictionary(c => ColumnOf(c.Column), c => c.Value.Length > 0 ? (object?)c.Value : null);
        // How someone said yes was said of another answer.
        if (own.ContainsKey("consent"))
            own["agreed_by"] = null;
        if (own.Count > 0)
            writing.Update("participant", participantId.Value, own);
        foreach (var cell in cells.Where(c => c.Column == ParticipantColumn.Attribute))
            WriteValue(writing, participantId, cell.AttributeId!.Value, cell.Value);
    }

    private static string ColumnOf(ParticipantColumn column) =>
        column == ParticipantColumn.RealName ? "real_name" : column.ToString().ToLowerInvariant();

    private static void WriteValue(Writing writing, ParticipantId participantId, AttributeId attributeId, string value)
    {
        var found = writing.Connection.QueryFirstOrDefault<long?>(
            "SELECT id FROM attribute_value WHERE participant_id = @participantId AND attribute_id = @attributeId",
            new { participantId, attributeId }
        );
        if (value.Length == 0 && found is { } gone)
            writing.Delete("attribute_value", gone);
        else if (value.Length > 0 && found is { } id)
            writing.Update("attribute_value", id, new { value });
        else if (value.Length > 0)
            writing.Insert(
                "attribute_value",
                new
                {
                    participantId,
                    attributeId,
                    value,
                }
            );
    }

    private static void RefuseTaken(Writing writing, StudyId studyId, string code, ParticipantId? exceptId)
    {
        var holder = writing.Connection.QueryFirstOrDefault<string>(
            "SELECT pseudonym FROM participant WHERE study_id = @studyId AND code = @code COLLATE NOCASE AND id IS NOT @exceptId",
            new
            {
                studyId,
                code,
                exceptId,
            }
        );
        if (holder is not null)
            throw Refusal.Because(RefusalSentences.CodeTaken(code, holder), "code");
    }

    /// <summary>Where the next participant of a study stands.</summary>
    internal static long NextPosition(SqliteConnection connection, StudyId studyId) =>
        connection.ExecuteScalar<long>("SELECT coalesce(max(position), 0) + 1 FROM participant WHERE study_id = @studyId", new { studyId });

    private static string NameOf(Writing writing, AttributeId id) =>
        writing.Connection.QuerySingle<string>("SELECT name FROM attribute WHERE id = @id", new { id });
}
