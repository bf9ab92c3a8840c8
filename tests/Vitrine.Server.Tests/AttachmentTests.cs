using System.Text;

namespace Vitrine.Server.Tests;

public sealed class AttachmentTests(SharedServer shared) : IClassFixture<SharedServer>, IAsyncLifetime
{
    private readonly TestServer server = shared.Server;
    private long study;

    public async Task InitializeAsync()
    {
        study = await server.Study();
    }

    public Task DisposeAsync() => Task.CompletedTask;

    [Theory]
    [InlineData("plan.dwg")]
    [InlineData("no ending")]
    [InlineData("<script>alert(1)</script>.html")]
    public async Task A_file_of_any_type_is_kept_as_it_is_and_only_ever_given_back_for_keeping(string name)
    {
        var id = await server.Attach(study, name, "<script>alert(1)</script>");
        using var answer = await server.Http.GetAsync($"/api/studies/{study}/attachments/{id}/original");
        Assert.Equal("<script>alert(1)</script>", await answer.Content.ReadAsStringAsync());
        Assert.Equal("attachment", answer.Content.Headers.ContentDisposition?.DispositionType);
        Assert.Empty((await server.SourcesOf(study)));
    }

    [Fact]
    public async Task An_attachment_is_tagged_and_stands_with_an_insight_until_it_is_removed_and_again_after_undo()
    {
        var id = await server.Attach(study, "guide.docx", "four questions");
        var insight = (long)
            (
                await server.Post(
                    $"studies/{study}/insights",
                    new
                    {
                        headline = "They hear too late",
                        story = TestServer.Rich(""),
                        observationIds = Array.Empty<long>(),
                    }
                )
            )["id"]!;
        await server.Put($"studies/{study}/insights/{insight}/attachments", new { attachmentIds = new[] { id } });
        await server.Put(
            $"studies/{study}/attachments/{id}",
            new
            {
                title = "Discussion guide",
                note = "For October.",
                version = 1,
                tagIds = Array.Empty<long>(),
                newTags = new[] { "how we asked" },
            }
        );
        var there = (await server.Get($"studies/{study}/attachments")).AsArray().Single()!;
        Assert.Equal(("Discussion guide", "guide.docx", 14), ((string)there["title"]!, (string)there["fileName"]!, (int)there["bytes"]!));
        Assert.Single(there["tagIds"]!.AsArray());
        Assert.Equal(insight, (long)there["insightIds"]![0]!);
        // A tag on an attachment is no observation: it counts for nobody.
        var tag = (await server.TagUses(study)).Single()!;
        Assert.Equal(0, (int)tag["breadth"]!["triple"]!["observations"]!);

        await server.Http.DeleteAsync($"/api/studies/{study}/attachments/{id}");
        Assert.Empty((await server.Get($"studies/{study}/attachments")).AsArray());
        await server.Post("undo", new { studyId = study, actionId = (long?)null });
        there = (await server.Get($"studies/{study}/attachments")).AsArray().Single()!;
        Assert.Equal(insight, (long)there["insightIds"]![0]!);
        Assert.Equal("four questions", await server.Http.GetStringAsync($"/api/studies/{study}/attachments/{id}/original"));
    }

    [Fact]
    public async Task The_same_file_is_offered_as_here_already_and_another_version_is_not_overwritten()
    {
        var id = await server.Attach(study, "guide.docx", "four questions");
        var (state, said, _) = await server.Upload(study, "guide copy.docx", Encoding.UTF8.GetBytes("four questions"), attachment: true);
        Assert.Equal(("same", "The same file is attached already as “guide”."), (state, said));
        Assert.Equal(("refused", "The file is empty. Check that it was saved, and add it again."), await Sent("empty.bin", []));
        var (status, sentence) = await server.Refused(
            $"studies/{study}/attachments/{id}",
            new
            {
                title = "x",
                note = "",
                version = 9,
                tagIds = Array.Empty<long>(),
                newTags = Array.Empty<string>(),
            },
            HttpMethod.Put
        );
        Assert.Equal(409, status);
        Assert.Contains("Your text is still here", sentence);
    }

    private async Task<(string State, string Said)> Sent(string name, byte[] bytes)
    {
        var (state, said, _) = await server.Upload(study, name, bytes, attachment: true);
        return (state, said);
    }
}
