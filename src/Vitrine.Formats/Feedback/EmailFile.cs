using System.Security.Cryptography;
using MimeKit;
using Vitrine.Core.Text;

namespace Vitrine.Formats.Feedback;

/// <summary>E-mail messages in their own format (.eml: RFC 5322 with MIME, RFC 2045 to 2049), read by MimeKit.</summary>
public static class EmailFile
{
    /// <summary>The message: its plain words, or those of its HTML. Attachments are not read.</summary>
    /// <exception cref="UnreadableException">It is no message, or has no words.</exception>
    public static ReadFeedback Read(byte[] file)
    {
        MimeMessage message;
        try
        {
            message = MimeMessage.Load(new MemoryStream(file));
        }
        catch (FormatException)
        {
            throw new UnreadableException("This is no e-mail message that can be read. Choose an .eml file.");
        }
        if (message.Headers.Count == 0 || (message.From.Count == 0 && message.Subject is null))
            throw new UnreadableException("This is no e-mail message that can be read. Choose an .eml file.");
        var words = CanonicalText.From(message.TextBody ?? (message.HtmlBody is { } html ? FeedFile.HtmlWords(html) : "")).Trim();
        if (words.Length == 0)
            throw new UnreadableException("There are no words in this message.");
        var from =
            message.From.Mailboxes.Select(m => string.IsNullOrEmpty(m.Name) ? m.Address : $"{m.Name} <{m.Address}>").FirstOrDefault() ?? "";
        return new ReadFeedback(
            message.MessageId ?? Convert.ToHexStringLower(SHA256.HashData(file)),
            from,
            message.Subject ?? "",
            words,
            message.Headers.Contains(HeaderId.Date) ? message.Date : null
        );
    }
}
