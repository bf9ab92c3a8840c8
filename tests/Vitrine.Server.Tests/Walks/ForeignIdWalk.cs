using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests.Walks;

/// <summary>
/// Every operation of the OpenAPI document, asked by a researcher about their own study with one id of another study in it: in the address,
/// the query, and the body at any depth.
/// Each must say that it is not there, without a word of the other study, which stays as it was.
/// </summary>
public sealed class ForeignIdWalk : IAsyncLifetime
{
    private const string Secret = "quillfeather";

    private readonly TestServer server = new();
    private HttpClient tom = null!;
    private Dictionary<string, JsonNode?> mine = [];
    private Dictionary<string, JsonNode?> theirs = [];

    public async Task InitializeAsync()
    {
        await server.SetUp();
        tom = await server.Person("Tom", "researcher");
        theirs = await Things.Make(server, server.Http, Secret);
        mine = await Things.Make(server, tom, "thornapple");
        foreach (var known in new[] { mine, theirs })
            Things.AddQueries(known);
    }

    public Task DisposeAsync()
    {
        tom.Dispose();
        server.Dispose();
        return Task.CompletedTask;
    }

    [Fact]
    public async Task Nothing_of_another_study_is_there()
    {
        var operations = (await ApiDocument.Operations(server.Http))
            .Where(o => !o.Path.Contains("{token}") && !o.Path.StartsWith("/api/invitations") && !o.Path.StartsWith("/api/accounts"))
            .ToList();
        var before = await AllOfTheirs(operations);
        var asked = new Dictionary<string, int>();
        var wrong = new List<string>();
        foreach (var operation in operations)
        {
            foreach (var (what, address, body) in Asked(operation))
            {
                using var request = operation.Request(address, body);
                using var answer = await tom.SendAsync(request);
                var said = await answer.Content.ReadAsStringAsync();
                if ((int)answer.StatusCode != 404 || said.Contains(Secret, StringComparison.OrdinalIgnoreCase))
                    wrong.Add($"{operation.Method} {address} {body?.ToJsonString()} ({what}): {(int)answer.StatusCode} {said}");
                asked[what] = asked.GetValueOrDefault(what) + 1;
            }
        }
        Assert.True(wrong.Count == 0, string.Join('\n', wrong));
        // Every kind of thing was asked for, or the walk has forgotten one.
        Assert.Empty(theirs.Keys.Where(k => k.EndsWith("Id", StringComparison.Ordinal)).Except(Things.OfTheWorkspace).Except(asked.Keys));
        Assert.Equal(before, await AllOfTheirs(operations));
    }

    /// <summary>The operation's good request, once for each id that it holds, with theirs in the place of mine.</summary>
    private IEnumerable<(string What, string Address, JsonNode? Body)> Asked(Operation operation)
    {
        foreach (
            var (part, name) in operation.Parts.Where(p => p.Name is not ("thing" or "number") && !Things.OfTheWorkspace.Contains(p.Name))
        )
            yield return (name, operation.Address(mine, (part, theirs[name])), operation.Sample(mine));
        foreach (var (field, _) in operation.Query)
        {
            if (Things.NameOf(operation, field) is { } id)
                yield return (id, operation.Address(mine, (field, theirs[id])), operation.Sample(mine));
        }
        if (operation.Sample(mine) is not { } sample)
            yield break;
        foreach (var (id, body) in operation.SamplesWith(mine, theirs))
            yield return (id, operation.Address(mine), body);
    }

    /// <summary>All that the steward is told of the other study.</summary>
    private async Task<string> AllOfTheirs(IEnumerable<Operation> operations)
    {
        var told = new List<string>();
        foreach (var operation in operations.Where(o => o.Method == "GET" && o.Path is not "/api/me" && !o.Path.EndsWith("openapi.json")))
        {
            using var answer = await server.Http.GetAsync(operation.Address(theirs));
            told.Add($"{operation}: {await answer.Content.ReadAsStringAsync()}");
        }
        return string.Join(
            '\n',
            told.Where(t => t.Contains(Secret)).Select(t => System.Text.RegularExpressions.Regex.Replace(t, "\"now\":\"[^\"]*\"", ""))
        );
    }
}
