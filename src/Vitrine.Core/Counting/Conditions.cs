using System.Collections;
using System.Diagnostics.CodeAnalysis;
using System.Text.Json;
using System.Text.Json.Serialization;
using Vitrine.Core.Gather.Participants;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Mark.Observations;

namespace Vitrine.Core.Counting;

/// <summary>A value of an attribute.</summary>
/// <param name="AttributeId">Of which attribute.</param>
/// <param name="Value">As it is kept; empty for people of whom nothing is said.</param>
public sealed record HasValue(AttributeId AttributeId, string Value);

/// <summary>A number or day of an attribute, from one to another, both included.</summary>
/// <param name="AttributeId">Of which attribute.</param>
/// <param name="Min">The least, as values are kept (12.5, 2026-03-01); null for no least.</param>
/// <param name="Max">The most; null for no most.</param>
public sealed record ValueRange(AttributeId AttributeId, string? Min, string? Max)
{
    /// <summary>Whether a value lies in it. One that is no number or day, or of another type, does not.</summary>
    public bool Holds(string value) =>
        (Min is null || AttributeValue.Order(value, Min) >= 0) && (Max is null || AttributeValue.Order(value, Max) <= 0);

    /// <summary>Whether it asks for something that a value can be.</summary>
    internal bool IsReadable =>
        (Min is not null || Max is not null)
        && (Min is null || AttributeValue.Order(Min, Min) == 0)
        && (Max is null || AttributeValue.Order(Max, Min ?? Max) is not null);
}

/// <summary>
/// Which observations are listed or counted. All conditions hold together; of each list any is enough, and an empty one asks for nothing.
/// What is named and is not there any more fits nothing.
/// </summary>
public sealed record Conditions
{
    /// <summary>Whose words.</summary>
    public IReadOnlyList<ParticipantId> ParticipantIds { get; init; } = [];

    /// <summary>Of people with these values: of one attribute any, of several attributes each.</summary>
    public IReadOnlyList<HasValue> Values { get; init; } = [];

    /// <summary>Of people whose numbers or days lie in these: of one attribute in any, of several attributes in each.</summary>
    public IReadOnlyList<ValueRange> Ranges { get; init; } = [];

    /// <summary>In which sources.</summary>
    public IReadOnlyList<SourceId> SourceIds { get; init; } = [];

    /// <summary>In which kinds of source.</summary>
    public IReadOnlyList<SourceKind> SourceKinds { get; init; } = [];

    /// <summary>From which sessions.</summary>
    public IReadOnlyList<SessionId> SessionIds { get; init; } = [];

    /// <summary>In sources of this day or later; one without a day does not fit.</summary>
    public DateOnly? HeldFrom { get; init; }

    /// <summary>In sources of this day or earlier; one without a day does not fit.</summary>
    public DateOnly? HeldTo { get; init; }

    /// <summary>With one of these tags, or one under it.</summary>
    public IReadOnlyList<TagId> TagIds { get; init; } = [];

    /// <summary>Only without any tag.</summary>
    public bool Untagged { get; init; }

    /// <summary>Marked by one of these.</summary>
    public IReadOnlyList<AccountId> AuthorIds { get; init; } = [];

    /// <summary>With one of these sentiments.</summary>
    public IReadOnlyList<Sentiment> Sentiments { get; init; } = [];

    /// <summary>Only with a star.</summary>
    public bool Starred { get; init; }

    /// <summary>Only those that somebody is unsure about.</summary>
    public bool Unsure { get; init; }

    /// <summary>Without what a search has found and nobody has looked at.</summary>
    public bool Reviewed { get; init; }

    /// <summary>Whether they ask for something of the people.</summary>
    [JsonIgnore]
    public bool OfPeople => ParticipantIds.Count + Values.Count + Ranges.Count > 0;

    /// <summary>Whether they ask for something of the sources.</summary>
    [JsonIgnore]
    public bool OfSources => SourceIds.Count + SourceKinds.Count + SessionIds.Count > 0 || HeldFrom is not null || HeldTo is not null;

    /// <summary>Whether they ask for something of the observations themselves.</summary>
    [JsonIgnore]
    public bool OfMarks => TagIds.Count + AuthorIds.Count + Sentiments.Count > 0 || Untagged || Starred || Unsure || Reviewed;

    /// <summary>Whether they ask for anything at all.</summary>
    [JsonIgnore]
    public bool Any => OfPeople || OfSources || OfMarks;

    /// <summary>Whether all values and ranges say what they ask for.</summary>
    [JsonIgnore]
    public bool AreReadable => Values.All(v => v is { Value: not null }) && Ranges.All(r => r is { IsReadable: true });

    /// <summary>Whether a source fits.</summary>
    /// <param name="id">Which it is.</param>
    /// <param name="kind">What it is.</param>
    /// <param name="session">The session it comes from; null for none.</param>
    /// <param name="day">When it was held or written; null when nobody has said.</param>
    public bool Fits(SourceId id, SourceKind kind, SessionId? session, DateOnly? day) =>
        (SourceIds.Count == 0 || SourceIds.Contains(id))
        && (SourceKinds.Count == 0 || SourceKinds.Contains(kind))
        && (SessionIds.Count == 0 || (session is { } s && SessionIds.Contains(s)))
        && (HeldFrom is not { } from || day >= from)
        && (HeldTo is not { } to || day <= to);

    /// <summary>Whether a participant fits.</summary>
    /// <param name="id">Who it is.</param>
    /// <param name="valueOf">The person's value of an attribute; null for none.</param>
    public bool Fits(ParticipantId id, Func<AttributeId, string?> valueOf) =>
        (ParticipantIds.Count == 0 || ParticipantIds.Contains(id))
        && Values.GroupBy(v => v.AttributeId).All(any => any.Any(v => v.Value == (valueOf(any.Key) ?? "")))
        && Ranges.GroupBy(r => r.AttributeId).All(any => valueOf(any.Key) is { } value && any.Any(r => r.Holds(value)));

    /// <summary>Whether an observation fits, as far as it is asked for itself.</summary>
    /// <param name="tags">Its tags and all above them.</param>
    /// <param name="author">Who marked it.</param>
    /// <param name="sentiment">How it was felt; null when nobody has said.</param>
    /// <param name="starred">Whether it has a star.</param>
    /// <param name="unsure">Whether somebody is unsure about it.</param>
    /// <param name="found">Whether a search has found it and nobody has looked at it.</param>
    public bool Fits(IReadOnlyCollection<TagId> tags, AccountId author, Sentiment? sentiment, bool starred, bool unsure, bool found) =>
        (TagIds.Count == 0 || TagIds.Any(tags.Contains))
        && (!Untagged || tags.Count == 0)
        && (AuthorIds.Count == 0 || AuthorIds.Contains(author))
        && (Sentiments.Count == 0 || (sentiment is { } felt && Sentiments.Contains(felt)))
        && (!Starred || starred)
        && (!Unsure || unsure)
        && !(Reviewed && found);

    /// <summary>The conditions as JSON, without those that ask for nothing; the same for the same conditions in the same order.</summary>
    public string ToJson() => JsonSerializer.Serialize(this, Json);

    /// <summary>Reads what <see cref="ToJson"/> has written: an address carries its conditions so.</summary>
    public static bool TryParse(string? json, IFormatProvider? provider, [NotNullWhen(true)] out Conditions? conditions)
    {
        conditions = null;
        try
        {
            conditions = json is null ? null : JsonSerializer.Deserialize<Conditions>(json, Json);
        }
        catch (JsonException)
        {
            return false;
        }
        return conditions is { AreReadable: true };
    }

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        RespectNullableAnnotations = true,
        NumberHandling = JsonNumberHandling.Strict,
        UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingDefault,
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false) },
        TypeInfoResolver = new System.Text.Json.Serialization.Metadata.DefaultJsonTypeInfoResolver
        {
            Modifiers =
            {
                // Lists that ask for nothing are left out.
                static type =>
                {
                    foreach (
                        var property in type.Properties.Where(p =>
                            p.PropertyType.IsGenericType && typeof(IEnumerable).IsAssignableFrom(p.PropertyType)
                        )
                    )
                        property.ShouldSerialize = static (_, value) => value is IEnumerable list && list.GetEnumerator().MoveNext();
                },
            },
        },
    };
}
