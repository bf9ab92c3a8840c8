using ArchUnitNET.Domain;
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
        var within = project + ".";
        var uses = House
            .Types.Where(t => t.Namespace?.FullName.StartsWith(within, StringComparison.Ordinal) == true)
            .SelectMany(t => t.Dependencies.Select(d => (From: t.Namespace.FullName, To: d.Target.Namespace?.FullName ?? "")))
            .Where(u => u.From != u.To && u.To.StartsWith(within, StringComparison.Ordinal))
            .Distinct()
            .ToLookup(u => u.From, u => u.To);
        Assert.NotEmpty(uses);
        Assert.Equal("", string.Join("\n", uses.Select(u => u.Key).Where(from => Reaches(from).Contains(from)).Order()));

        // Whatever one comes to over one use or many.
        HashSet<string> Reaches(string from)
        {
            var reached = new HashSet<string>();
            var next = new Stack<string>(uses[from]);
            while (next.TryPop(out var name))
                if (reached.Add(name))
                    foreach (var further in uses[name])
                        next.Push(further);
            return reached;
        }
    }
}
