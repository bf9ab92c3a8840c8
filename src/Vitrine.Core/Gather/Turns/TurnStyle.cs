namespace Vitrine.Core.Gather.Turns;

/// <summary>How a transcript writes who speaks.</summary>
public enum TurnStyle
{
    /// <summary>"Name: words", also after a line's number.</summary>
    NameAndColon,

    /// <summary>
    /// A name and a time on one line, in either order, with spaces, a bar, a comma, a dash or brackets between; also a time or a range of
    /// times on a line of its own above a name.
    /// </summary>
    TimeAndName,

    /// <summary>A name on a line of its own, the words beneath.</summary>
    NameOnItsOwnLine,

    /// <summary>"[Name] words", in brackets of any kind.</summary>
    NameInBrackets,

    /// <summary>"Name – words", "Name | words".</summary>
    NameAndDash,

    /// <summary>"&gt;&gt; words" where another speaks, with or without a name.</summary>
    ChangeMarks,

    /// <summary>"Q. words", "A. words".</summary>
    QuestionAndAnswer,

    /// <summary>A table with a column of names and a column of words, perhaps of times.</summary>
    TableColumns,

    /// <summary>Times without names.</summary>
    TimesAlone,

    /// <summary>Nobody: paragraphs.</summary>
    NoTurns,
}
