using Vitrine.Core.Gather.Privacy;

namespace Vitrine.Core.Gather.Participants;

/// <summary>A column of the participants' grid.</summary>
public enum ParticipantColumn
{
    /// <summary>The short code, such as P01; each is somebody's alone.</summary>
    Code,

    /// <summary>The made-up name.</summary>
    Pseudonym,

    /// <summary>The real name; may be empty.</summary>
    RealName,

    /// <summary>What they said to their words being used.</summary>
    Consent,

    /// <summary>The value of an attribute; empty for none.</summary>
    Attribute,
}

/// <summary>What is written into a cell of the grid.</summary>
/// <param name="ParticipantId">Whose row.</param>
/// <param name="Column">Which column.</param>
/// <param name="AttributeId">Which attribute, where the column is one; null otherwise.</param>
/// <param name="Value">What is written.</param>
public sealed record ParticipantCell(ParticipantId ParticipantId, ParticipantColumn Column, AttributeId? AttributeId, string Value);

/// <summary>Why a cell was not taken.</summary>
public enum CellProblem
{
    /// <summary>It is longer than <see cref="ParticipantCells.Longest"/>.</summary>
    TooLong,

    /// <summary>A participant without a code.</summary>
    NoCode,

    /// <summary>A participant without a pseudonym.</summary>
    NoPseudonym,

    /// <summary>Nothing that one can say of consent.</summary>
    NoConsent,

    /// <summary>The code is somebody else's.</summary>
    CodeTaken,

    /// <summary>It is no value of the attribute's type.</summary>
    WrongType,

    /// <summary>The attribute is gone.</summary>
    NoAttribute,
}

/// <summary>A cell that was not taken.</summary>
/// <param name="ParticipantId">Whose row.</param>
/// <param name="Column">Which column.</param>
/// <param name="AttributeId">Which attribute, where the column is one.</param>
/// <param name="Value">What was written.</param>
/// <param name="Problem">Why it was not taken.</param>
/// <param name="Attribute">The attribute, where its type is the reason.</param>
/// <param name="Holder">Who has the code, by pseudonym, where that is the reason.</param>
public sealed record RefusedCell(
    ParticipantId ParticipantId,
    ParticipantColumn Column,
    AttributeId? AttributeId,
    string Value,
    CellProblem Problem,
    AttributeForm? Attribute = null,
    string? Holder = null
);

/// <summary>The type of an attribute and what it is called.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Kind">The type of its values.</param>
public sealed record AttributeForm(string Name, AttributeKind Kind);

/// <summary>A participant as others are held against them.</summary>
/// <param name="Code">Their code.</param>
/// <param name="Pseudonym">Their made-up name.</param>
public sealed record CodedParticipant(string Code, string Pseudonym);

/// <summary>Looks through a block of cells before it is written: what fits is taken, each cell that does not is refused alone.</summary>
/// <example>
/// P01 Sorrel and P02 Wren, and a block that gives P01 to Wren and P02 to Sorrel, "often" into the number "visits" of both: the codes are
/// taken, because they stand apart when all is written; "often" is refused twice. A block that gives P01 to Wren alone is refused.
/// </example>
public static class ParticipantCells
{
    /// <summary>The most characters of a code.</summary>
    public const int LongestCode = 20;

    /// <summary>The most characters of a name.</summary>
    public const int LongestName = 120;

    /// <summary>The most characters of a value.</summary>
    public const int LongestValue = 200;

    /// <summary>The cells that fit, each with its value as it is kept, and the others with the reason.</summary>
    /// <param name="cells">What is to be written; of several for one cell the last one counts.</param>
    /// <param name="people">Everyone in the study, by id; every cell is of one of them.</param>
    /// <param name="attributes">Its attributes, by id.</param>
    public static (IReadOnlyList<ParticipantCell> Taken, IReadOnlyList<RefusedCell> Refused) Of(
        IReadOnlyList<ParticipantCell> cells,
        IReadOnlyDictionary<ParticipantId, CodedParticipant> people,
        IReadOnlyDictionary<AttributeId, AttributeForm> attributes
    )
    {
        var taken = new Dictionary<(ParticipantId, ParticipantColumn, AttributeId?), ParticipantCell>();
        var refused = new Dictionary<(ParticipantId, ParticipantColumn, AttributeId?), RefusedCell>();
        void Refuse(ParticipantCell cell, CellProblem problem, string? holder = null)
        {
            taken.Remove(Place(cell));
            var form = problem == CellProblem.WrongType ? attributes[cell.AttributeId!.Value] : null;
            refused[Place(cell)] = new RefusedCell(cell.ParticipantId, cell.Column, cell.AttributeId, cell.Value, problem, form, holder);
        }
        foreach (var cell in cells)
        {
            var (value, problem) = Fitting(cell, attributes);
            if (problem is { } why)
                Refuse(cell with { Value = value }, why);
            else
                (taken[Place(cell)], _) = (cell with { Value = value }, refused.Remove(Place(cell)));
        }
        // Who is given the code that they have was there first.
        var codes = taken.Values.Where(c => c.Column == ParticipantColumn.Code && c.Value != people[c.ParticipantId].Code).ToList();
        foreach (var (cell, holder) in Clashes(codes, people))
            Refuse(cell, CellProblem.CodeTaken, holder);
        return ([.. taken.Values], [.. refused.Values]);
    }

    private static (ParticipantId, ParticipantColumn, AttributeId?) Place(ParticipantCell cell) =>
        (cell.ParticipantId, cell.Column, cell.AttributeId);

    /// <summary>The most characters that a cell of a column has.</summary>
    public static int Longest(ParticipantColumn column) =>
        column switch
        {
            ParticipantColumn.Code => LongestCode,
            ParticipantColumn.Pseudonym or ParticipantColumn.RealName => LongestName,
            _ => LongestValue,
        };

    /// <summary>A cell's value as it is kept, or as it was written with the reason why it is not kept.</summary>
    private static (string Value, CellProblem? Problem) Fitting(
        ParticipantCell cell,
        IReadOnlyDictionary<AttributeId, AttributeForm> attributes
    )
    {
        var value = cell.Value.Trim();
        if (value.Length > Longest(cell.Column))
            return (value, CellProblem.TooLong);
        return cell.Column switch
        {
            ParticipantColumn.Code when value.Length == 0 => (value, CellProblem.NoCode),
            ParticipantColumn.Pseudonym when value.Length == 0 => (value, CellProblem.NoPseudonym),
            ParticipantColumn.Consent => Enum.TryParse<Consent>(value, ignoreCase: true, out var consent) && Enum.IsDefined(consent)
                ? (consent.ToString().ToLowerInvariant(), null)
                : (value, CellProblem.NoConsent),
            ParticipantColumn.Attribute when cell.AttributeId is { } id && attributes.TryGetValue(id, out var attribute) =>
                AttributeValue.Fit(attribute.Kind, value) is { } fit ? (fit, null) : (value, CellProblem.WrongType),
            ParticipantColumn.Attribute => (value, CellProblem.NoAttribute),
            _ => (value, null),
        };
    }

    /// <summary>Codes that somebody else would have as well when all is written, each with who that is.</summary>
    private static IEnumerable<(ParticipantCell Cell, string Holder)> Clashes(
        IReadOnlyList<ParticipantCell> given,
        IReadOnlyDictionary<ParticipantId, CodedParticipant> people
    )
    {
        var codes = people.ToDictionary(p => p.Key, p => p.Value.Code);
        foreach (var cell in given)
            codes[cell.ParticipantId] = cell.Value;
        var holders = codes
            .GroupBy(c => c.Value, c => c.Key, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(h => h.Key, h => h.ToHashSet(), StringComparer.OrdinalIgnoreCase);
        var wanting = given.ToLookup(c => c.Value, StringComparer.OrdinalIgnoreCase);
        var left = new Queue<ParticipantCell>(given);
        var refused = new HashSet<ParticipantId>();
        while (left.TryDequeue(out var cell))
        {
            var there = holders[cell.Value];
            if (there.Count == 1 || !refused.Add(cell.ParticipantId))
                continue;
            there.Remove(cell.ParticipantId);
            yield return (cell, people[there.First()].Pseudonym);
            // Whose code is refused keeps the old one, which somebody else may have been given.
            var kept = people[cell.ParticipantId].Code;
            if (!holders.TryGetValue(kept, out var again))
                holders[kept] = again = [];
            again.Add(cell.ParticipantId);
            foreach (var other in wanting[kept])
                left.Enqueue(other);
        }
    }
}
