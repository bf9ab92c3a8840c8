using Microsoft.Extensions.DependencyInjection;
using Vitrine.Server.Gather.Imports;
using Vitrine.Server.Jobs;
using Vitrine.Storage.Jobs;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Tests;

/// <summary>Long work that fails of itself is tried again, once; what is refused is not.</summary>
public sealed class JobTests
{
    [Theory]
    [InlineData(0, "done", 1)]
    [InlineData(1, "done", 2)]
    [InlineData(2, "refused", 2)]
    public async Task What_failed_of_itself_is_tried_again_once(int failures, string state, int tries)
    {
        var failing = new Failing(failures);
        using var server = new TestServer(services =>
        {
            var own = services.Single(s => s.ServiceType == typeof(IJobWork) && s.ImplementationType == typeof(FileImport));
            services.Remove(own);
            services.AddSingleton<FileImport>();
            services.AddSingleton<IJobWork>(provider => failing.Around(provider.GetRequiredService<FileImport>()));
        });
        await server.SetUp();
        var study = await server.Study();
        var (ended, said, _) = await server.Upload(study, "talk.txt", "Wren: It came in time."u8.ToArray());
        Assert.Equal((state, tries), (ended, failing.Tries));
        Assert.Equal(state == "refused", said.Contains("Something went wrong on the server", StringComparison.Ordinal));
        Assert.Equal(state == "done" ? 1 : 0, (await server.SourcesOf(study)).Count);
    }

    private sealed class Failing(int failures) : IJobWork
    {
        private IJobWork? work;

        public int Tries { get; private set; }

        public JobKind Kind => work!.Kind;

        public IJobWork Around(IJobWork inner)
        {
            work = inner;
            return this;
        }

        public Task<JobEnd> Run(Job job, Actor actor, IProgress<double> progress, CancellationToken cancel) =>
            ++Tries <= failures ? throw new InvalidOperationException("By chance.") : work!.Run(job, actor, progress, cancel);

        public JobEnd DoneBefore(Job job, Step step) => work!.DoneBefore(job, step);
    }
}
