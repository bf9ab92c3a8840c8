using System.Text;
using Vitrine.Formats.Feedback;

namespace Vitrine.Formats.Tests;

/// <summary>
/// Feeds and e-mail against the examples of their specifications, written down from memory of the documents named at each.
/// </summary>
public class FeedbackTests
{
    private static IReadOnlyList<ReadFeedback> Feed(string xml) => FeedFile.Read(new MemoryStream(Encoding.UTF8.GetBytes(xml)));

    private static ReadFeedback Mail(string message) => EmailFile.Read(Encoding.ASCII.GetBytes(message.ReplaceLineEndings("\r\n")));

    // RFC 4287 (Atom), section 1.1: the brief, single-entry document. An entry without an author has the feed's (section 4.1.2).
    [Fact]
    public void The_entry_of_the_atom_example_is_read()
    {
        var entry = Assert.Single(
            Feed(
                """
                <?xml version="1.0" encoding="utf-8"?>
                <feed xmlns="http://www.w3.org/2005/Atom">
                  <title>Example Feed</title>
                  <link href="http://example.org/"/>
                  <updated>2003-12-13T18:30:02Z</updated>
                  <author><name>John Doe</name></author>
                  <id>urn:uuid:60a76c80-d399-11d9-b93C-0003939e0af6</id>
                  <entry>
                    <title>Atom-Powered Robots Run Amok</title>
                    <link href="http://example.org/2003/12/13/atom03"/>
                    <id>urn:uuid:1225c695-cfb8-4ebb-aaaa-80da344efa6a</id>
                    <updated>2003-12-13T18:30:02Z</updated>
                    <summary>Some text.</summary>
                  </entry>
                </feed>
                """
            )
        );
        Assert.Equal(
            new ReadFeedback(
                "urn:uuid:1225c695-cfb8-4ebb-aaaa-80da344efa6a",
                "John Doe",
                "Atom-Powered Robots Run Amok",
                "Some text.",
                new DateTimeOffset(2003, 12, 13, 18, 30, 2, TimeSpan.Zero)
            ),
            entry
        );
    }

    // RSS 2.0 (RSS Advisory Board), the sample feed of the specification: an item with and one without a title, descriptions in escaped
    // HTML.
    [Fact]
    public void The_items_of_the_rss_sample_are_read()
    {
        var items = Feed(
            """
            <?xml version="1.0"?>
            <rss version="2.0">
               <channel>
                  <title>Liftoff News</title>
                  <link>http://liftoff.msfc.nasa.gov/</link>
                  <description>Liftoff to Space Exploration.</description>
                  <pubDate>Tue, 10 Jun 2003 04:00:00 GMT</pubDate>
                  <managingEditor>editor@example.com</managingEditor>
                  <item>
                     <title>Star City</title>
                     <link>http://liftoff.msfc.nasa.gov/news/2003/news-starcity.asp</link>
                     <description>How do Americans get ready to work with Russians aboard the International Space Station? They take a crash course in culture, language and protocol at Russia's &lt;a href="http://howe.iki.rssi.ru/GCTC/gctc_e.htm"&gt;Star City&lt;/a&gt;.</description>
                     <pubDate>Tue, 03 Jun 2003 09:39:21 GMT</pubDate>
                     <guid>http://liftoff.msfc.nasa.gov/2003/06/03.html#item573</guid>
                  </item>
                  <item>
                     <description>Sky watchers in Europe, Asia, and parts of Alaska and Canada will experience a &lt;a href="http://science.nasa.gov/headlines/y2003/30may_solareclipse.htm"&gt;partial eclipse of the Sun&lt;/a&gt; on Saturday, May 31st.</description>
                     <pubDate>Fri, 30 May 2003 11:06:42 GMT</pubDate>
                     <guid>http://liftoff.msfc.nasa.gov/2003/05/30.html#item572</guid>
                  </item>
               </channel>
            </rss>
            """
        );
        Assert.Equal(
            ["http://liftoff.msfc.nasa.gov/2003/06/03.html#item573", "http://liftoff.msfc.nasa.gov/2003/05/30.html#item572"],
            items.Select(i => i.OuterId)
        );
        Assert.Equal(["Star City", ""], items.Select(i => i.Title));
        Assert.EndsWith("protocol at Russia's Star City.", items[0].Text);
        Assert.Equal(new DateTimeOffset(2003, 5, 30, 11, 6, 42, TimeSpan.Zero), items[1].At);
    }

    [Theory]
    [InlineData("")]
    [InlineData("no feed at all")]
    [InlineData("<html><body>A page</body></html>")]
    [InlineData("<rss version=\"2.0\"><channel><item><title>cut")]
    [InlineData(
        "<!DOCTYPE rss [<!ENTITY a \"aa\"><!ENTITY b \"&a;&a;&a;\">]><rss version=\"2.0\"><channel><title>&b;</title></channel></rss>"
    )]
    public void What_is_no_feed_is_refused_with_a_sentence(string xml) =>
        Assert.Contains("RSS 2.0 or Atom", Assert.Throws<UnreadableException>(() => Feed(xml)).Message);

    [Fact]
    public void Words_of_a_feed_are_plain_and_scripts_are_left_out() =>
        Assert.Equal(
            "One & two\nthree",
            Assert
                .Single(
                    Feed(
                        "<rss version=\"2.0\"><channel><title>t</title><link>http://a.example/</link><description>d</description><item><description>&lt;p&gt;One &amp;amp; two&lt;/p&gt;three&lt;script&gt;alert(1)&lt;/script&gt;</description></item></channel></rss>"
                    )
                )
                .Text.Trim()
        );

    // RFC 5322, appendix A.1.1.
    [Fact]
    public void A_message_between_two_people_is_read()
    {
        var read = Mail(
            """
            From: John Doe <jdoe@machine.example>
            To: Mary Smith <mary@example.net>
            Subject: Saying Hello
            Date: Fri, 21 Nov 1997 09:55:06 -0600
            Message-ID: <1234@local.machine.example>

            This is a message just to say hello.
            So, "Hello".
            """
        );
        Assert.Equal(
            new ReadFeedback(
                "1234@local.machine.example",
                "John Doe <jdoe@machine.example>",
                "Saying Hello",
                "This is a message just to say hello.\nSo, \"Hello\".",
                new DateTimeOffset(1997, 11, 21, 9, 55, 6, TimeSpan.FromHours(-6))
            ),
            read
        );
    }

    // RFC 5322, appendix A.5: white space, comments and folds in every place.
    [Fact]
    public void Comments_and_folds_are_no_part_of_what_is_said()
    {
        var read = Mail(
            """
            From: Pete(A nice \) chap) <pete(his account)@silly.test(his host)>
            To:A Group(Some people)
                 :Chris Jones <c@(Chris's host.)public.example>,
                     joe@example.org,
              John <jdoe@one.test> (my dear friend); (the end of the group)
            Date: Thu,
                  13
                    Feb
                      1969
                  23:32
                           -0330 (Newfoundland Time)
            Message-ID:              <testabcd.1234@silly.test>

            Testing.
            """
        );
        Assert.Equal(
            ("testabcd.1234@silly.test", "Pete <pete@silly.test>", "", "Testing."),
            (read.OuterId, read.Sender, read.Title, read.Text)
        );
        Assert.Equal(new DateTimeOffset(1969, 2, 13, 23, 32, 0, new TimeSpan(-3, -30, 0)), read.At);
    }

    // RFC 2047, section 8: encoded words.
    [Fact]
    public void Encoded_words_are_read()
    {
        var read = Mail(
            """
            From: =?US-ASCII?Q?Keith_Moore?= <moore@cs.utk.edu>
            Subject: =?ISO-8859-1?B?SWYgeW91IGNhbiByZWFkIHRoaXMgeW8=?=
             =?ISO-8859-2?B?dSB1bmRlcnN0YW5kIHRoZSBleGFtcGxlLg==?=

            Yes.
            """
        );
        Assert.Equal(
            ("Keith Moore <moore@cs.utk.edu>", "If you can read this you understand the example.", (DateTimeOffset?)null),
            (read.Sender, read.Title, read.At)
        );
    }

    // RFC 2046, section 5.1.4: of alternatives, the plain one is the first.
    [Fact]
    public void Of_alternatives_the_plain_words_are_read()
    {
        var read = Mail(
            """
            From: a@b.example
            Subject: Two
            MIME-Version: 1.0
            Content-Type: multipart/alternative; boundary=boundary42

            --boundary42
            Content-Type: text/plain; charset=us-ascii

            The plain one.
            --boundary42
            Content-Type: text/html

            <p>The rich one.</p>
            --boundary42--
            """
        );
        Assert.Equal("The plain one.", read.Text);
    }

    [Theory]
    [InlineData("")]
    [InlineData("Just a line of words.")]
    public void What_is_no_message_is_refused(string message) => Assert.Throws<UnreadableException>(() => Mail(message));
}
