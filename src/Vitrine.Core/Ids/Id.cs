using System.Globalization;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace Vitrine.Core.Ids;

/// <summary>The number of a thing, whatever its kind.</summary>
public interface IId
{
    /// <summary>The bare number, as it is stored.</summary>
    long Value { get; }
}

/// <summary>The number of a thing of one kind.</summary>
/// <remarks>
/// The number of a source cannot be given where that of a participant is asked for. A bare 7 is taken for a <c>SourceId</c>; the bare
/// number of one is asked for by its name, <see cref="Value"/>. Names.cs lists the kinds.
/// </remarks>
/// <typeparam name="TKind">What it is the number of; a class that has no objects.</typeparam>
/// <param name="Value">The bare number, as it is stored, 1 or more; 0 is nothing's.</param>
#pragma warning disable CA1000, CA1036 // Addresses are bound by a static member; operators that compare are those of the bare number.
[JsonConverter(typeof(IdJson))]
public readonly record struct Id<TKind>(long Value) : IId, IComparable<Id<TKind>>
{
    /// <summary>The id of this kind that has the number.</summary>
    public static implicit operator Id<TKind>(long value) => new(value);

    /// <inheritdoc/>
    public int CompareTo(Id<TKind> other) => Value.CompareTo(other.Value);

    /// <summary>Reads the number from digits, as addresses hold it.</summary>
    public static bool TryParse(string? digits, IFormatProvider? provider, out Id<TKind> id)
    {
        var fits = long.TryParse(digits, NumberStyles.None, CultureInfo.InvariantCulture, out var number);
        id = number;
        return fits;
    }

    /// <summary>The number in digits.</summary>
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}

/// <summary>Writes and reads ids as JSON numbers; as names of properties, in digits.</summary>
public sealed class IdJson : JsonConverterFactory
{
    /// <inheritdoc/>
    public override bool CanConvert(Type typeToConvert) => typeof(IId).IsAssignableFrom(typeToConvert);

    /// <inheritdoc/>
    public override JsonConverter CreateConverter(Type typeToConvert, JsonSerializerOptions options) =>
        (JsonConverter)Activator.CreateInstance(typeof(Of<>).MakeGenericType(typeToConvert.GetGenericArguments()))!;

    private sealed class Of<TKind> : JsonConverter<Id<TKind>>
    {
        public override Id<TKind> Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) => reader.GetInt64();

        public override void Write(Utf8JsonWriter writer, Id<TKind> value, JsonSerializerOptions options) =>
            writer.WriteNumberValue(value.Value);

        public override Id<TKind> ReadAsPropertyName(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            long.Parse(reader.GetString()!, CultureInfo.InvariantCulture);

        public override void WriteAsPropertyName(Utf8JsonWriter writer, Id<TKind> value, JsonSerializerOptions options) =>
            writer.WritePropertyName(value.ToString());
    }
}
