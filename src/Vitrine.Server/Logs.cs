using System.Globalization;
using Microsoft.AspNetCore.Diagnostics;
using Serilog;
using Serilog.Events;
using Serilog.Formatting.Compact;
using Vitrine.Server.Access;

namespace Vitrine.Server;

/// <summary>
/// What happened, as one JSON object a line in the data folder's logs/, and warnings on the console. It holds what was asked (the route,
/// not the address), by which account number,
/// how it ended and how long it took: never words, names, addresses of people or secrets of links.
/// </summary>
internal static class Logs
{
    private const int DaysKept = 14;

    public static void AddLogs(this WebApplicationBuilder builder, string data) =>
        builder.Services.AddSerilog(
            log =>
                log.MinimumLevel.Information()
                    .MinimumLevel.Override("Microsoft", LogEventLevel.Warning)
                    .MinimumLevel.Override("Microsoft.AspNetCore.DataProtection", LogEventLevel.Error)
                    // It warns that our own, stricter no-store is kept.
                    .MinimumLevel.Override("Microsoft.AspNetCore.Antiforgery", LogEventLevel.Error)
                    .WriteTo.Console(
                        LogEventLevel.Warning,
                        "{Timestamp:HH:mm:ss} {Level:u4} {Message:lj}{NewLine}{Exception}",
                        CultureInfo.InvariantCulture,
                        standardErrorFromLevel: LogEventLevel.Warning
                    )
                    .WriteTo.File(
                        new CompactJsonFormatter(),
                        Path.Combine(data, "logs", "vitrine-.jsonl"),
                        rollingInterval: RollingInterval.Day,
                        retainedFileCountLimit: DaysKept,
                        shared: true
                    ),
            preserveStaticLogger: true
        );

    /// <summary>What was asked; after a refusal the handler of errors still knows.</summary>
    private static string RouteOf(HttpContext http) =>
        ((http.GetEndpoint() ?? http.Features.Get<IExceptionHandlerFeature>()?.Endpoint) as RouteEndpoint)?.RoutePattern.RawText
        ?? "(none)";

    public static void UseRequestLogs(this WebApplication app) =>
        app.UseSerilogRequestLogging(log =>
        {
            log.Logger = app.Services.GetRequiredService<Serilog.ILogger>();
            log.IncludeQueryInRequestPath = false;
            log.MessageTemplate = "{Method} {Route} {Status} in {Milliseconds} ms by {Account}";
            log.GetLevel = (http, _, failure) =>
                failure is not null || http.Response.StatusCode >= 500 ? LogEventLevel.Error : LogEventLevel.Information;
            log.GetMessageTemplateProperties = (http, _, milliseconds, status) =>
                [
                    new LogEventProperty("Method", new ScalarValue(http.Request.Method)),
                    new LogEventProperty("Route", new ScalarValue(RouteOf(http))),
                    new LogEventProperty("Status", new ScalarValue(status)),
                    new LogEventProperty("Milliseconds", new ScalarValue(Math.Round(milliseconds, 1))),
                    new LogEventProperty("Account", new ScalarValue(SignedIn.Of(http)?.Id)),
                ];
        });
}
