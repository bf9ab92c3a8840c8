namespace Vitrine.Server.Tests;

/// <summary>One server for all tests of a class, each of which has a study of its own: beginning one costs more than most tests do.</summary>
public class SharedServer : IAsyncLifetime
{
    public SharedServer()
        : this([]) { }

    protected SharedServer(params (string Name, string Value)[] settings) => Server = new TestServer("serve", settings);

    public TestServer Server { get; }

    public Task InitializeAsync() => Server.SetUp();

    public Task DisposeAsync()
    {
        Server.Dispose();
        return Task.CompletedTask;
    }
}

/// <summary>A busy machine reads slowly: this one lets a file take its time.</summary>
public sealed class PatientServer() : SharedServer(("reading-seconds", "600"));
