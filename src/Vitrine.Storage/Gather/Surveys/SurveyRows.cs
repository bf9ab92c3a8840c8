using System.Globalization;
using System.Text;
using Dapper;
using Vitrine.Core.Gather.Corrections;
using Vitrine.Core.Gather.Participants;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Gather.Surveys;
using Vitrine.Core.Gather.Turns;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Core.Text;
using Vitrine.Storage.Anchors;
using Vitrine.Storage.Gather.Corrections;
using Vitrine.Storage.Gather.Participants;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Gather.Turns;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Gather.Surveys;

/// <summary>Takes in one row of a survey: who it is, what is known of them, and what they answered.</summary>
internal static class SurveyRows
{
    /// <summary>The speaker whose turns are the survey's questions; the team's own words.</summary>
    private const string Asking = "Question";

    public static void Take(
        Writing writing,
        StudyId studyId,
        string name,
        IReadOnlyList<SurveyColumn> columns,
        SurveyRow row,
        SurveyTaking taking,
        CorrectionStore corrections
    )
    {
        if (taking.Again.TryGetValue(row.Key, out var was))
        {
            TakeAgain(writing, studyId, name, columns, row, was, taking, corrections);
            return;
        }
        var person = row.Who.Length > 0 ? taking.People.GetValueOrDefault(row.Who) : null;
        var isNew = person is null;
        if (person is null)
        {
            person = NewPerson(writing, studyId, row, taking.Codes, taking.Place++, taking.Choice.AgreedBy);
            if (row.Who.Length > 0)
                taking.People[row.Who] = person;
        }
        // What was noted of somebody in an earlier row is looked for in the database.
        if (!isNew)
            taking.Flush(writing);
        Facts(writing, person.Id, row, taking, isNew);
        SourceId? sourceId = row.Speaks ? Answers(writing, studyId, name, columns, row, person, taking) : null;
        taking.Note(row, person.Id, sourceId);
    }

    /// <summary>
    /// Takes in a row that was here before and says something else now: as new answers of the same person, or in the place of the old.
    /// </summary>
    private static void TakeAgain(
        Writing writing,
        StudyId studyId,
        string name,
        IReadOnlyList<SurveyColumn> columns,
        SurveyRow row,
        RowBefore was,
        SurveyTaking taking,
        CorrectionStore corrections
    )
    {
        taking.Flush(writing);
        var person = new SurveyPerson(was.ParticipantId!.Value, was.Code!);
        if (taking.OnlyGrows(row))
        {
            Grow(writing, studyId, name, columns, row, was, person, taking, corrections);
            return;
        }
        var replace = taking.Choice.Again == SurveyAgain.Replace;
        var said = new List<(int Column, string Words)>();
        foreach (var (column, value) in row.Facts)
        {
            var (attributeId, kind) = taking.Attributes[column];
            if (AttributeValue.Fit(kind, value) is not { } fit)
                continue;
            var (id, before) = writing.Connection.QueryFirstOrDefault<(long, string?)>(
                "SELECT id, value FROM attribute_value WHERE participant_id = @Id AND attribute_id = @attributeId",
                new { person.Id, attributeId }
            );
            if (before is null)
                taking.Note(person.Id, attributeId, fit);
            else if (before != fit && replace)
                writing.Update("attribute_value", id, new { value = fit });
            else if (before != fit)
                said.Add((column, value));
        }
        var sourceId = was.SourceId;
        if (replace && sourceId is { } there)
            Replace(writing, columns, row, person, there, taking, corrections);
        else if (
            row with
            {
                Answers = [.. row.Answers, .. said],
                On = row.On ?? taking.Choice.HeldOn,
                IsOneOfMany = !replace,
            } is
            { Speaks: true } now
        )
        {
            var made = Answers(writing, studyId, name, columns, now, person, taking);
            taking.NotePresent(made, person.Id);
            sourceId ??= made;
        }
        writing.Update("survey_row", was.Id, new { contentHash = row.ContentHash, sourceId });
    }

    /// <summary>Adds what a row that was here before answers to questions that are new; nothing that is here is touched.</summary>
    private static void Grow(
        Writing writing,
        StudyId studyId,
        string name,
        IReadOnlyList<SurveyColumn> columns,
        SurveyRow row,
        RowBefore was,
        SurveyPerson person,
        SurveyTaking taking,
        CorrectionStore corrections
    )
    {
        var added = row with
        {
            Facts = [.. row.Facts.Where(f => taking.Added.Contains(f.Column))],
            Answers = [.. row.Answers.Where(a => taking.Added.Contains(a.Column))],
            Values = [.. row.Values.Where(v => taking.Added.Contains(v.Column))],
        };
        Facts(writing, person.Id, added, taking, isNew: false);
        var sourceId = was.SourceId;
        if (added.Speaks && sourceId is { } there)
        {
            Append(writing, studyId, columns, added, there, person, taking, corrections);
        }
        else if (added.Speaks)
        {
            sourceId = Answers(writing, studyId, name, columns, added, person, taking);
            taking.NotePresent(sourceId.Value, person.Id);
        }
        // What it says otherwise beside that is told again when the table comes again.
        var contentHash = taking.Differs(row) ? was.ContentHash : row.ContentHash;
        writing.Update("survey_row", was.Id, new { contentHash, sourceId });
    }

    /// <summary>Puts answers behind those that a source holds.</summary>
    private static void Append(
        Writing writing,
        StudyId studyId,
        IReadOnlyList<SurveyColumn> columns,
        SurveyRow added,
        SourceId sourceId,
        SurveyPerson person,
        SurveyTaking taking,
        CorrectionStore corrections
    )
    {
        var before = writing.Connection.QuerySingle<string>("SELECT text FROM source_text WHERE source_id = @sourceId", new { sourceId });
        // They are called there as they were then.
        var called = writing.Connection.QueryFirstOrDefault<string>(
            "SELECT label FROM speaker WHERE source_id = @sourceId AND participant_id = @Id ORDER BY position",
            new { sourceId, person.Id }
        );
        var turns = writing
            .Connection.Query<(int Start, int End, string? Label)>(
                """
                SELECT t.start, t."end", s.label FROM turn t LEFT JOIN speaker s ON s.id = t.speaker_id
                WHERE t.source_id = @sourceId ORDER BY t.start
                """,
                new { sourceId }
            )
            .Select(t => new Turn(new TextRange(t.Start, t.End), t.Label));
        var (text, more, given) = Said(columns, added, called ?? person.Code, taking.Scales);
        var from = before.Length == 0 ? 0 : before.Length + 2;
        var whole = from == 0 ? text : $"{before}\n\n{text}";
        TextRange Behind(TextRange words) => new(words.Start + from, words.End + from);
        Turn[] all = [.. turns, .. more.Select(t => t with { Words = Behind(t.Words) })];
        corrections.Apply(writing, sourceId, new Correction("", Reanchor.Between(before, whole), all, null), [Asking], keepFirst: false);
        Mark(writing, studyId, sourceId, given.Select(g => (Behind(g.Words), g.TagId, g.Value)));
    }

    private static void Replace(
        Writing writing,
        IReadOnlyList<SurveyColumn> columns,
        SurveyRow row,
        SurveyPerson person,
        SourceId sourceId,
        SurveyTaking taking,
        CorrectionStore corrections
    )
    {
        var (text, turns, given) = Said(columns, row, person.Code, taking.Scales);
        if (turns.Count > 0)
        {
            var before = writing.Connection.QuerySingle<string>(
                "SELECT text FROM source_text WHERE source_id = @sourceId",
                new { sourceId }
            );
            corrections.Apply(writing, sourceId, new Correction("", Reanchor.Between(before, text), turns, null), [Asking]);
        }
        if (row.On is { } heldOn)
            writing.Update("source", sourceId.Value, new { heldOn });
        foreach (var (_, tagId, value) in given)
        {
            var mark = writing.Connection.QueryFirstOrDefault<long?>(
                """
                SELECT t.id FROM observation_tag t JOIN observation o ON o.id = t.observation_id
                WHERE o.source_id = @sourceId AND t.tag_id = @tagId AND t.value IS NOT NULL ORDER BY t.id
                """,
                new { sourceId, tagId }
            );
            if (mark is { } id)
                writing.Update("observation_tag", id, new { value });
        }
    }

    private static SurveyPerson NewPerson(
        Writing writing,
        StudyId studyId,
        SurveyRow row,
        HashSet<string> codes,
        long position,
        AgreedBy? agreedBy
    )
    {
        var isCode = row.Who.Length > 0 && SurveyReading.IsCode(row.Who) && !codes.Contains(row.Who);
        var code = isCode ? row.Who : ParticipantCodes.Next(codes);
        codes.Add(code);
        return new SurveyPerson(
            writing.Insert(
                "participant",
                new
                {
                    studyId,
                    code,
                    pseudonym = $"Respondent {code}",
                    realName = isCode || row.Who.Length == 0 ? null : row.Who,
                    position,
                    consent = ConsentRule.Noted(agreedBy),
                    agreedBy,
                }
            ),
            code
        );
    }

    private static void Facts(Writing writing, ParticipantId participantId, SurveyRow row, SurveyTaking taking, bool isNew)
    {
        foreach (var (column, value) in row.Facts)
        {
            var (attributeId, kind) = taking.Attributes[column];
            // An attribute that was there before keeps its type; what is none of it is not forced in.
            if (AttributeValue.Fit(kind, value) is not { } fit)
                continue;
            // What the team has written about someone stays.
            if (
                !isNew
                && writing.Connection.ExecuteScalar<bool>(
                    "SELECT count(*) FROM attribute_value WHERE participant_id = @participantId AND attribute_id = @attributeId",
                    new { participantId, attributeId }
                )
            )
                continue;
            taking.Note(participantId, attributeId, fit);
        }
    }

    private static SourceId Answers(
        Writing writing,
        StudyId studyId,
        string name,
        IReadOnlyList<SurveyColumn> columns,
        SurveyRow row,
        SurveyPerson person,
        SurveyTaking taking
    )
    {
        var (text, turns, given) = Said(columns, row, person.Code, taking.Scales);
        var sourceId = SourceStore.Insert(
            writing,
            studyId,
            new NewSource(
                row is { IsOneOfMany: true, On: { } day } ? $"{person.Code}, {name}, {day:yyyy-MM-dd}" : $"{person.Code}, {name}",
                SourceKind.Survey,
                row.On,
                null,
                text,
                [], // Turns, and who takes part, are noted and added with those of others.
                [],
                null,
                null,
                taking.FolderId
            ),
            taking.Position++,
            _ => new SpeakerMatch(null, false)
        );
        taking.Note(
            new NewTurns(sourceId, turns, label => label == Asking ? new SpeakerMatch(null, true) : new SpeakerMatch(person.Id, false))
        );
        Mark(writing, studyId, sourceId, given);
        return sourceId;
    }

    /// <summary>Gives values on scales to the words that say them.</summary>
    private static void Mark(
        Writing writing,
        StudyId studyId,
        SourceId sourceId,
        IEnumerable<(TextRange Words, TagId TagId, double Value)> given
    )
    {
        foreach (var (words, tagId, value) in given)
        {
            var observationId = ObservationRows.Insert(writing, studyId, sourceId, new TextAnchor(words));
            writing.Insert(
                "observation_tag",
                new
                {
                    observationId,
                    tagId,
                    value,
                }
            );
        }
    }

    /// <summary>What a row says, as a short interview: its text, its turns, and which of them are values on scales.</summary>
    private static (string Text, List<Turn> Turns, List<(TextRange Words, TagId TagId, double Value)> Given) Said(
        IReadOnlyList<SurveyColumn> columns,
        SurveyRow row,
        string code,
        Dictionary<int, (TagId Id, Scale Scale)> scales
    )
    {
        var text = new StringBuilder();
        var turns = new List<Turn>();
        var given = new List<(TextRange Words, TagId TagId, double Value)>();
        var values = row.Values.ToDictionary(v => v.Column, v => v.Value);
        foreach (
            var (column, words) in row
                .Answers.Concat(row.Values.Select(v => (v.Column, Words: v.Value.ToString(CultureInfo.InvariantCulture))))
                .OrderBy(a => a.Column)
        )
        {
            Say(columns[column].Name, Asking);
            Say(words, code);
            if (values.TryGetValue(column, out var value) && scales[column].Scale.Fits(value))
                given.Add((turns[^1].Words, scales[column].Id, value));
        }
        return (text.ToString(), turns, given);

        void Say(string words, string speaker)
        {
            if (text.Length > 0)
                text.Append("\n\n");
            var from = text.Length;
            text.Append(CanonicalText.From(words).Trim());
            turns.Add(new Turn(new TextRange(from, text.Length), speaker));
        }
    }
}
