using System.Data;
using Dapper;
using Vitrine.Core.RichTexts;

namespace Vitrine.Storage.Sql;

/// <summary>Texts with form, as <see cref="RichTextJson"/> stores them.</summary>
internal sealed class RichTextColumn : SqlMapper.TypeHandler<RichText>
{
    public override RichText Parse(object value) => RichTextJson.FromStored((string)value);

    public override void SetValue(IDbDataParameter parameter, RichText? value) => parameter.Value = RichTextJson.Stored(value!);
}
