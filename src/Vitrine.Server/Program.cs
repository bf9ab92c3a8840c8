using System.Net;
using System.Reflection;
using System.Text.Json;
using Dapper;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;
using Microsoft.Data.Sqlite;
using Microsoft.Extensions.FileProviders;
using Vitrine.Server;
using Vitrine.Server.Access;
using Vitrine.Server.Backups;
using Vitrine.Server.Demo;
using Vitrine.Server.FileReading;
using Vitrine.Server.Gather.Imports;
using Vitrine.Server.Gather.Intake;
using Vitrine.Server.Gather.Surveys;
using Vitrine.Server.Http;
using Vitrine.Server.Jobs;
using Vitrine.Server.Live;
using Vitrine.Server.Mark.Reading;
using Vitrine.Server.Mark.Recordings;
using Vitrine.Server.Mark.Transcription;
using Vitrine.Server.Show.Publication;
using Vitrine.Server.StandIns;
using Vitrine.Storage.Backups;
using Vitrine.Storage.Trail;

// Vitrine.Server serve|demo --data DIR --port N [--web DIR] [--demo-files DIR]
// Vitrine.Server backup|restore FILE --data DIR, check --data DIR
// Started by a tool (the build's OpenAPI step, a test), it is not asked anything on a command line.
var asked = Assembly.GetEntryAssembly() == typeof(Program).Assembly;
if (asked && CommandLine.Problem(args) is { } unclear)
{
    Console.Error.WriteLine(unclear);
    return CommandLine.NotAskedRightly;
}
if (BackupCommands.Run(args, Console.Out) is { } done)
    return done;
if (asked && args[0] == FileReadingWorker.Command)
    return FileReadingWorker.Run(Console.OpenStandardInput(), Console.OpenStandardOutput());
var builder = WebApplication.CreateBuilder(args);

// The OpenAPI document describes the demo's door as well, so that the front end's types know it.
var describing = Assembly.GetEntryAssembly()?.GetName().Name == "GetDocument.Insider";
var demo = describing || args.FirstOrDefault() == "demo" || builder.Configuration["mode"] == "demo";
var data = builder.Configuration["data"] ?? "data";
var port = builder.Configuration.GetValue("port", 5177);

builder.WebHost.ConfigureKestrel(kestrel =>
{
    kestrel.Listen(IPAddress.Loopback, port);
    kestrel.Limits.MaxRequestBodySize = Limits.RequestBytes;
    kestrel.AddServerHeader = false;
});
builder.Logging.ClearProviders();
if (!describing)
    builder.AddLogs(data);
builder.Services.Configure<HostOptions>(host => host.ShutdownTimeout = Limits.StoppingTime);
builder.Services.ConfigureHttpJsonOptions(json => StrictJson.Set(json.SerializerOptions));

// What the framework cannot bind is answered where every refusal is answered.
builder.Services.Configure<RouteHandlerOptions>(routes => routes.ThrowOnBadRequest = true);
builder.Services.AddOpenApi(openApi =>
    IdNumbers.Say(
        openApi
            .AddOperationTransformer(Choices.Say)
            .AddSchemaTransformer<RequiredProperties>()
            .AddSchemaTransformer<RichTextSchema>()
            .AddDocumentTransformer<TableNames>()
    )
);
builder.Services.AddAccess();

// The keys that sign cookies live with the data, so that people stay signed in over a restart and a move.
builder.Services.AddDataProtection().SetApplicationName("Vitrine").PersistKeysToFileSystem(new DirectoryInfo(Path.Combine(data, "keys")));
builder.Services.AddSignalR();
if (!describing)
    builder.Services.AddHostedService<ChangeBroadcaster>();
builder.Services.AddSingleton<IJobWork, FileImport>();
builder.Services.AddSingleton<IJobWork, SurveyImport>();
builder.Services.AddSingleton<IJobWork, RecordingWork>();
builder.Services.AddSingleton<IJobWork, TranscriptionWork>();
builder.Services.AddSingleton(
    typeof(ITranscriber),
    builder.Configuration["transcriber"] switch
    {
        null or "simulated" => typeof(SimulatedTranscriber),
        "pocketsphinx" => typeof(PocketsphinxTranscriber),
        _ => typeof(ProgramTranscriber),
    }
);
builder.Services.AddSingleton<JobRunner>();
if (!describing)
    builder.Services.AddHostedService(services => services.GetRequiredService<JobRunner>());
builder.Services.AddSingleton(TimeProvider.System);
builder.Services.AddSingleton<Readiness>();
builder.Services.AddSingleton<FileReader>();
builder.Services.AddSingleton(services => new Workspace(data, services.GetRequiredService<TimeProvider>()));
foreach (var store in Stores.All)
    builder.Services.AddSingleton(store);

builder.Services.Configure<PasswordHasherOptions>(hashing =>
    hashing.IterationCount = builder.Configuration.GetValue("password-iterations", hashing.IterationCount)
);

var app = builder.Build();
try
{
    if (builder.Configuration["proxy"] is { } proxies)
        app.UseProxies(proxies);
}
catch (Refusal noProxy)
{
    Console.Error.WriteLine(noProxy.Message);
    return CommandLine.NotAskedRightly;
}
if (!describing)
    app.UseRequestLogs();
app.UseSecurityHeaders();
Problems.Use(app);
if (builder.Configuration["web"] is { } web)
{
    var files = new PhysicalFileProvider(Path.GetFullPath(web));
    app.UseStaticFiles(
        new StaticFileOptions
        {
            FileProvider = files,
            OnPrepareResponse = served =>
                served.Context.Response.Headers.CacheControl = served.Context.Request.Path.StartsWithSegments("/assets")
                    ? "public, max-age=31536000, immutable"
                    : "no-cache",
        }
    );
    app.MapFallback(
        "{*path:nonfile}",
        context => SecurityHeaders.Page(context, File.ReadAllText(files.GetFileInfo("index.html").PhysicalPath!))
    );
    // Given as a request delegate: code made at build time would lose its pattern.
    app.MapFallback("/api/{**path}", context => Problems.Of(404, "missing", "There is nothing at this address.").ExecuteAsync(context));
}
app.UseReadiness();
app.UseRateLimiter();
app.UseAuthentication();
app.UseAuthorization();
app.UseAntiforgeryCheck();
app.UseStudyAuthorization();
app.MapGet(
        "/healthz",
        (Workspace workspace, Readiness readiness) =>
        {
            using var connection = workspace.Open();
            return readiness.IsReady
                ? Results.Text(connection.ExecuteScalar<string>("SELECT 'ok'"))
                : Results.Text("loading", statusCode: StatusCodes.Status503ServiceUnavailable);
        }
    )
    .ExcludeFromDescription();
app.MapOpenApi("/api/openapi.json");
app.MapAccess(demo);
app.MapJoining();
app.MapReading();
app.MapIntakeDoor();
app.MapHub<LiveHub>("/api/live");
var api = app.MapGroup("/api")
    .RequireAuthorization(AccessEndpoints.Team)
    .WithMetadata(new TeamOperation())
    .AddEndpointFilterFactory(RequestIds.Filter);
api.MapAll();

if (!asked)
{
    // The host alone.
    await app.RunAsync();
    return 0;
}

var folder = new DemoFolder(data);
if (demo && folder.Problem is { } problem)
{
    Console.Error.WriteLine(problem);
    return 1;
}
if (demo)
    folder.ClearWhatWasHalfLoaded();
using var hold = DataFolder.Hold(data);
if (hold is null)
{
    Console.Error.WriteLine($"Another Vitrine runs on {Path.GetFullPath(data)}. End it, or choose another folder with --data.");
    return 1;
}
try
{
    app.Services.GetRequiredService<Undo>().TakeBackHalfDone();
}
catch (Exception broken) when (broken is SqliteException or InvalidOperationException or IOException or UnauthorizedAccessException)
{
    Console.Error.WriteLine(
        $"The workspace in {Path.GetFullPath(data)} cannot be opened: {(broken.InnerException ?? broken).Message} Run ./vitrine "
            + $"check, or restore a backup."
    );
    return 1;
}
var readiness = app.Services.GetRequiredService<Readiness>();
var pass = demo && !folder.IsLoaded ? readiness.BeginLoading() : null;
try
{
    await app.StartAsync();
}
catch (IOException)
{
    Console.Error.WriteLine($"Port {port} is in use on this machine. End what uses it, or choose another with --port.");
    return 1;
}

// Asked for port 0, the machine has chosen one.
var address = app.Urls.First();
if (pass is not null)
{
    Console.WriteLine("Loading the demo workspace …");
    folder.BeginLoading();
    using var http = new HttpClient { BaseAddress = new Uri(address) };
    http.DefaultRequestHeaders.Add(Readiness.PassHeader, pass);
    try
    {
        await new DemoLoader(http, builder.Configuration["demo-files"] ?? "demo").Load();
    }
    catch (Exception unloaded)
        when (unloaded is InvalidOperationException or IOException or JsonException or HttpRequestException or KeyNotFoundException)
    {
        Console.Error.WriteLine($"The demo could not be loaded: {unloaded.Message}");
        await app.StopAsync();
        return 1;
    }
    folder.EndLoading();
    readiness.EndLoading();
}
Console.WriteLine(
    $"""

    Vitrine is at  {address}
    Its data is in {Path.GetFullPath(data)}
    {(
        demo
            ? "Sign in by choosing one of the demo people on the first page; no password is needed here."
            : "The first person to open it sets up the steward’s account."
    )}
    Ctrl-C ends it.
    """
);
await app.WaitForShutdownAsync();
app.Services.GetRequiredService<Workspace>().Rest();
Console.WriteLine("Vitrine has ended; everything is saved.");
return 0;

/// <summary>The server's entry point, named for the tests' host.</summary>
public sealed partial class Program;
