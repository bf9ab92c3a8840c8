using Vitrine.Core.Gather.Participants;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Gather.Sessions;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Core.Weigh.Evidence;
using Vitrine.Server.Access;
using Vitrine.Storage.Gather.Studies;

namespace Vitrine.Server.Demo;

/// <summary>
/// The demo workspace as it is written in the folder demo/: whom, what and where, quoted by words so that anyone can edit it.
/// </summary>
internal sealed record DemoWorkspace(IReadOnlyList<NewAccount> Accounts, IReadOnlyList<DemoFamily> TagSet, IReadOnlyList<string> Studies);

internal sealed record DemoFamily(string Name, int Colour, string Definition, IReadOnlyList<DemoTag> Tags);

internal sealed record DemoTag(string Name, string Definition, string? IsNot, Scale? Scale, IReadOnlyList<string>? Aliases);

internal sealed record DemoStudy(
    StudyText Text,
    IReadOnlyList<string> Team,
    IReadOnlyList<NewDemoAttribute> Attributes,
    IReadOnlyList<DemoParticipant> Participants,
    IReadOnlyList<DemoSource> Sources,
    IReadOnlyList<DemoSession>? Sessions,
    IReadOnlyList<DemoSurvey>? Surveys,
    IReadOnlyList<DemoAttachment>? Attachments,
    IReadOnlyList<DemoWatch>? Watches,
    IReadOnlyList<string>? Kept,
    IReadOnlyList<string>? Dismissed,
    IReadOnlyList<DemoErased>? Erased,
    IReadOnlyList<DemoTheme> Themes,
    IReadOnlyList<DemoInsight> Insights,
    IReadOnlyList<DemoNotAsked> NotAsked,
    IReadOnlyList<DemoExhibit> Exhibits,
    IReadOnlyList<DemoProposal>? Proposals = null,
    IReadOnlyList<DemoSplit>? Splits = null,
    IReadOnlyList<DemoBundle>? Bundles = null,
    IReadOnlyList<string>? LeftOut = null,
    DemoSuggested? Suggested = null
);

/// <param name="Shared">Whether every study shares it.</param>
internal sealed record DemoBundle(string Name, string Definition, IReadOnlyList<string> Tags, bool Shared = false);

internal sealed record NewDemoAttribute(string Name, AttributeKind Kind);

internal sealed record DemoParticipant(string Code, string Pseudonym, string? RealName, Consent Consent, IReadOnlyList<string> Values);

internal sealed record DemoSession(
    string Title,
    SessionKind Kind,
    string HeldOn,
    int? Minutes,
    string Moderator,
    IReadOnlyList<string> Participants
);

/// <summary>A file that is kept as it is.</summary>
internal sealed record DemoAttachment(string File, string Title, string Note, IReadOnlyList<string> Tags);

/// <param name="Session">The title of the session it came of, or null.</param>
/// <param name="Marks">The file with what was tagged in it, or null.</param>
/// <param name="Corrections">What was corrected in it after it was marked.</param>
/// <param name="ReadBy">Who has read how much of it: account address and share 0..1.</param>
/// <param name="Blind">Who has tagged it without seeing what the others mark, and has said done.</param>
internal sealed record DemoSource(
    string File,
    string Title,
    SourceKind Kind,
    string HeldOn,
    string? Session,
    string? Marks,
    IReadOnlyList<DemoCorrection>? Corrections,
    IReadOnlyDictionary<string, double> ReadBy,
    IReadOnlyList<string>? Blind = null
);

internal sealed record DemoCorrection(string Was, string Now);

/// <summary>A line of live notes as it was typed.</summary>
internal sealed record DemoLine(int Minute, string By, string Typed);

internal sealed record DemoWatch(string Name, IReadOnlyList<string> Words, double? RatingTo);

/// <summary>Someone who withdrew and whose material was erased before the demo begins.</summary>
internal sealed record DemoErased(string Code, string Pseudonym, string RealName, string Title, string Text);

/// <summary>A table that is taken in with its columns as they are guessed.</summary>
internal sealed record DemoSurvey(string File, string Name);

/// <param name="Quote">Its words, in a text.</param>
/// <param name="Clip">Its beginning and end in seconds, in a recording.</param>
/// <param name="Region">Left edge, upper edge, width and height in ten-thousandths, in a picture.</param>
/// <param name="Margin">What a margin note on the words says; without tags then.</param>
/// <param name="ExampleOf">Which of its tags it is an example of.</param>
internal sealed record DemoMark(
    string? Quote,
    IReadOnlyList<double>? Clip,
    IReadOnlyList<int>? Region,
    string By,
    IReadOnlyList<string> Tags,
    string? Note,
    Sentiment? Sentiment,
    bool Starred,
    bool Unsure,
    IReadOnlyDictionary<string, double>? Values,
    string? Margin,
    string? ExampleOf
);

/// <param name="Questions">Which research questions of the study it answers, from 1.</param>
/// <param name="Evidence">Quotes that were laid in it, by their stance.</param>
internal sealed record DemoTheme(
    string Title,
    string Description,
    string? Under,
    IReadOnlyList<string> Tags,
    IReadOnlyList<int>? Questions,
    IReadOnlyDictionary<Stance, IReadOnlyList<string>> Evidence
);

internal sealed record DemoInsight(
    string Headline,
    string Story,
    IReadOnlyDictionary<Stance, IReadOnlyList<string>> Evidence,
    IReadOnlyList<string> NotAsked
);

/// <summary>A study's own tag that is proposed to the shared set.</summary>
internal sealed record DemoProposal(string Tag, string By, string Words);

/// <summary>A tag that is being split: the narrower ones on the keys from 1, and which quotes lie in them so far.</summary>
/// <param name="Sent">The number of a tray by the quote; 0 for one that stays wide, 10 for one that nobody is sure of.</param>
internal sealed record DemoSplit(string Tag, IReadOnlyList<string> Trays, IReadOnlyDictionary<string, int> Sent);

internal sealed record DemoNotAsked(string Tag, IReadOnlyList<string> Participants);

internal sealed record DemoExhibit(string Question, string Summary, IReadOnlyList<string> Insights);
