using Vitrine.Core.Ids;
using Vitrine.Core.RichTexts;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Http;

/// <summary>
/// A text that a person wrote over one that they saw. Written over anything else, it is refused with the text that stands there.
/// </summary>
internal sealed record NewText(string Text, string Was);

/// <summary>A text with form, in the same way.</summary>
internal sealed record NewRichText(RichText Text, RichText Was);

/// <summary>Reads what a person typed, or refuses it with a sentence that says what to do.</summary>
internal static class Validate
{
    /// <summary>Text that must be there.</summary>
    /// <exception cref="Refusal">Empty, or longer than <paramref name="most"/> characters.</exception>
    public static string Text(string? value, string field, string missing, int most = Limits.Title)
    {
        var text = Optional(value, field, most);
        return text.Length > 0 ? text : throw Refusal.Because(missing, field);
    }

    /// <summary>A new text that must not be empty.</summary>
    /// <exception cref="Refusal">Empty, or longer than <paramref name="most"/> characters.</exception>
    public static string Text(NewText given, string field, string missing, int most = Limits.Title) =>
        Text(given.Text, field, missing, most);

    /// <summary>Text that may be empty.</summary>
    /// <exception cref="Refusal">Longer than <paramref name="most"/> characters.</exception>
    public static string Optional(string? value, string field, int most = Limits.LongText)
    {
        var text = (value ?? "").Replace("\r\n", "\n").Trim();
        return text.Length <= most ? text : throw Refusal.Because(RefusalSentences.TooLong(text.Length, most), field);
    }

    /// <summary>A text with form, which may be empty.</summary>
    /// <exception cref="Refusal">Its words, or all of it with its form, are longer than is kept.</exception>
    public static RichText Rich(RichText text, string field)
    {
        var (words, whole) = (text.Plain.Length, RichTextJson.Stored(text).Length);
        if (words > Limits.LongText)
            throw Refusal.Because(RefusalSentences.TooLong(words, Limits.LongText), field);
        return whole <= Limits.RichText ? text : throw Refusal.Because(RefusalSentences.TooLong(whole, Limits.RichText), field);
    }

    /// <exception cref="Refusal">A name is empty or too long.</exception>
    public static IReadOnlyList<NewTag> NewTags(IReadOnlyList<string>? typed) => (typed ?? []).Select(NewTagOf).ToList();

    /// <exception cref="Refusal">A name in it is empty or too long, or its definition is.</exception>
    public static NewTag NewTagOf(string typed)
    {
        var tag = NewTag.Read(typed, out var length) ?? throw Refusal.Because(RefusalSentences.OfTagName(length), "name");
        Optional(tag.Definition, "name");
        return tag;
    }

    /// <exception cref="Refusal">The name is empty or too long.</exception>
    public static TagName TagNameOf(string name) =>
        TagName.Read(name, out var length) ?? throw Refusal.Because(RefusalSentences.OfTagName(length), "name");

    /// <summary>The number of a page, from 0.</summary>
    /// <exception cref="Refusal">It is below 0.</exception>
    public static int Page(int page) => page >= 0 ? page : throw Refusal.Because("Pages are counted from 0.", "page");

    /// <summary>Keeps the body of a request in a file while it is read; nothing of it is held in memory.</summary>
    public static async Task<T> File<T>(HttpRequest request, MediaFolder media, Func<string, Task<T>> read)
    {
        var path = media.Passing();
        try
        {
            await using (var file = System.IO.File.Create(path))
                await request.Body.CopyToAsync(file, request.HttpContext.RequestAborted);
            if (new FileInfo(path).Length == 0)
                throw Refusal.Because("The file is empty. Check that it was saved, and add it again.", "file");
            return await read(path);
        }
        finally
        {
            System.IO.File.Delete(path);
        }
    }

    /// <exception cref="Refusal">The list is empty or longer than a person can mean.</exception>
    public static IReadOnlyList<Id<TKind>> Ids<TKind>(IReadOnlyList<Id<TKind>>? ids, string what) =>
        ids switch
        {
            null or { Count: 0 } => throw Refusal.Because($"Choose at least one {what}.", "ids"),
            { Count: > Limits.ListLength } => throw Refusal.Because(
                $"These are {ids.Count:N0}; {Limits.ListLength:N0} go in one step. Choose fewer, such as what a filter shows.",
                "ids"
            ),
            _ => ids,
        };
}
