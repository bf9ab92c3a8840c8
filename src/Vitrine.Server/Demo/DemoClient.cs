using System.Text.Json;
using System.Text.Json.Serialization;
using Vitrine.Core.Gather.Sources;
using Vitrine.Server.Access;
using Vitrine.Server.Gather.Imports;
using Vitrine.Storage.Jobs;

namespace Vitrine.Server.Demo;

/// <summary>Asks the server as a page would, and reads the files of the demo.</summary>
internal abstract class DemoClient(HttpClient http, string folder)
{
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(20);

    protected HttpClient Http => http;

    protected string PathOf(params string[] file) => Path.Combine([folder, .. file]);

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        ReadCommentHandling = JsonCommentHandling.Skip,
        AllowTrailingCommas = true,
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
    };

    protected async Task TakeToken()
    {
        http.DefaultRequestHeaders.Remove(AntiforgeryCheck.Header);
        http.DefaultRequestHeaders.Add(AntiforgeryCheck.Header, (await Get<PageTokenOf>("me")).PageToken);
    }

    protected async Task<T> Read<T>(string file)
    {
        await using var stream = File.OpenRead(Path.Combine(folder, file));
        return await JsonSerializer.DeserializeAsync<T>(stream, Json) ?? throw new InvalidOperationException($"demo/{file} is empty.");
    }

    protected async Task<T> Get<T>(string path) => await Checked<T>(await http.GetAsync("/api/" + path), path);

    protected async Task<T> Post<T>(string path, object body) =>
        await Checked<T>(await http.PostAsJsonAsync("/api/" + path, body, Json), path);

    protected async Task Put(string path, object body)
    {
        using var answer = await http.PutAsJsonAsync("/api/" + path, body, Json);
        if (!answer.IsSuccessStatusCode)
            throw await Failure(answer, path);
    }

    protected Task PutAway(StudyId studyId) => Post<object?>($"studies/{studyId}/imports/put-away", new { });

    protected async Task<Import> Import(StudyId studyId, string path, SourceKind kind, JobState wanted, bool attachment = false)
    {
        var bytes = await File.ReadAllBytesAsync(path);
        var import = await Post<Import>(
            $"studies/{studyId}/imports",
            new NewFile(Path.GetFileName(path), bytes.Length, "", kind, null, attachment)
        );
        import = await Checked<Import>(
            await http.PutAsync($"/api/studies/{studyId}/imports/{import.Key}/bytes?from=0", new ByteArrayContent(bytes)),
            path
        );
        return await Ended(studyId, import, wanted);
    }

    protected async Task<Import> Ended(StudyId studyId, Import import, JobState wanted)
    {
        do
        {
            await Task.Delay(Pause);
            import = (await Get<IReadOnlyList<Import>>($"studies/{studyId}/imports")).Single(i => i.Key == import.Key);
        } while (import.State is JobState.Waiting or JobState.Working);
        return import.State == wanted
            ? import
            : throw new InvalidOperationException($"The demo’s file {import.Name} did not come in: {import.Said}");
    }

    protected static async Task<T> Checked<T>(HttpResponseMessage answer, string what)
    {
        using (answer)
        {
            if (!answer.IsSuccessStatusCode)
                throw await Failure(answer, what);
            return answer.Content.Headers.ContentLength == 0 ? default! : (await answer.Content.ReadFromJsonAsync<T>(Json))!;
        }
    }

    private static async Task<InvalidOperationException> Failure(HttpResponseMessage answer, string what) =>
        new($"The demo could not be loaded at {what}: {(int)answer.StatusCode} {await answer.Content.ReadAsStringAsync()}");

    private sealed record PageTokenOf(string PageToken);
}
