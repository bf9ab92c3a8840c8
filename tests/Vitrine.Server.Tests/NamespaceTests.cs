using ArchUnitNET.Domain;
using ArchUnitNET.Fluent.Slices;
using ArchUnitNET.Loader;
using Vitrine.Core.Text;
using Vitrine.Formats;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Tests;

/// <summary>
/// No namespace of a project leads back to itself over others, whatever its code says: fields, calls and types within methods count.
/// </summary>
public class NamespaceTests
{
    private static readonly Architecture House = new ArchLoader()
        .LoadAssemblies(typeof(TextRange).Assembly, typeof(SourceFile).Assembly, typeof(Workspace).Assembly, typeof(Program).Assembly)
        .Build();

    [Theory]
    [InlineData("Vitrine.Core")]
    [InlineData("Vitrine.Formats")]
    [InlineData("Vitrine.Storage")]
    [InlineData("Vitrine.Server")]
    public void No_circle_of_namespaces(string project)
    {
        var circles = SliceRuleDefinition.Slices().Matching(project + ".(**)").Should().BeFreeOfCycles().Evaluate(House);
        Assert.Equal("", string.Join("\n", circles.Where(c => !c.Passed).Select(c => c.Description)));
    }
}
