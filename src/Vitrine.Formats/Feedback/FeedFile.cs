using System.ServiceModel.Syndication;
using System.Xml;
using AngleSharp.Html.Parser;
using Vitrine.Core.Text;

namespace Vitrine.Formats.Feedback;

/// <summary>Feeds: RSS 2.0 (RSS Advisory Board, 2009) and Atom (RFC 4287), read by System.ServiceModel.Syndication.</summary>
public static class FeedFile
{
    /// <summary>The items of a feed in the order in which they stand. One without words is left out.</summary>
    /// <exception cref="UnreadableException">It is no feed.</exception>
    public static IReadOnlyList<ReadFeedback> Read(Stream file)
    {
        try
        {
            // What a feed points to is never fetched, and no document may blow itself up.
            using var xml = XmlReader.Create(file, new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null });
            var feed = SyndicationFeed.Load(xml);
            return [.. feed.Items.Select(item => Item(item, feed)).Where(i => i.Text.Length > 0)];
        }
        catch (Exception broken) when (broken is XmlException or FormatException)
        {
            throw new UnreadableException("This is no feed that can be read. Choose an RSS 2.0 or Atom file.");
        }
    }

    private static ReadFeedback Item(SyndicationItem item, SyndicationFeed feed)
    {
        var title = Plain(item.Title);
        var words = Plain(item.Content as TextSyndicationContent ?? item.Summary);
        var sender = string.Join(
            ", ",
            (item.Authors.Count > 0 ? item.Authors : feed.Authors)
                .Select(a => a.Name ?? a.Email ?? a.Uri)
                .Where(a => !string.IsNullOrWhiteSpace(a))
        );
        var at =
            item.PublishDate != default ? item.PublishDate
            : item.LastUpdatedTime != default ? item.LastUpdatedTime
            : (DateTimeOffset?)null;
        var id = item.Id ?? item.Links.FirstOrDefault()?.Uri.ToString() ?? ContentHash.Of($"{title}\n{words}");
        return new ReadFeedback(id, sender, title.Replace('\n', ' '), words.Length > 0 ? words : title, at);
    }

    /// <summary>
    /// The words of an item's text; RSS says of none whether it is HTML, so that whatever holds a tag or an entity is read as such.
    /// </summary>
    private static string Plain(TextSyndicationContent? content)
    {
        if (content?.Text is not { } text)
            return "";
        if (
            content.Type != "text"
            || text.Contains("</", StringComparison.Ordinal)
            || text.Contains("/>", StringComparison.Ordinal)
            || text.Contains("<br", StringComparison.OrdinalIgnoreCase)
        )
            text = HtmlWords(text);
        return CanonicalText.From(text).Trim();
    }

    internal static string HtmlWords(string html)
    {
        var body = new HtmlParser().ParseDocument(html).Body!;
        foreach (var silent in body.QuerySelectorAll("script, style").ToList())
            silent.Remove();
        foreach (var end in body.QuerySelectorAll("br, p, div, li, tr, h1, h2, h3").ToList())
            end.After(body.Owner!.CreateTextNode("\n"));
        return string.Join('\n', body.TextContent.Split('\n').Select(line => line.Trim())).Trim();
    }
}
