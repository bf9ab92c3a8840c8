using System.Text.RegularExpressions;

namespace Vitrine.Core.Gather.Turns;

/// <summary>What a word or two before a turn look like.</summary>
internal enum LabelLook
{
    /// <summary>A role or a code: "Interviewer", "Speaker 2", "P07".</summary>
    Role,

    /// <summary>A name: every word begins with a capital or is a number.</summary>
    Name,

    /// <summary>A heading of notes or a usual word: "Problem", "Main idea".</summary>
    Word,

    /// <summary>The beginning of a sentence, or a sound: "The thing is", "Laughter".</summary>
    Prose,
}

/// <summary>
/// Tells names from other words that stand before a colon (common practice, no source). Word lists are English; what they do not know is
/// told by its capitals and by the text itself.
/// </summary>
internal static class SpeakerLabel
{
    private static readonly HashSet<string> SmallWords = Set(
        """
        a an and are as at be because been but by can could did do does first for from had has have he her here his how i’m if
        in is it its just last me my next no not now of on only or other our out second she so some still than that the their
        them then there these they third this those though to too was we were what when where which while who why with would
        yes you your ok okay right sure well thanks exactly yeah hello hi sorry good
        """
    );

    private static readonly HashSet<string> NoteWords = Set(
        """
        action actions aim answer answers attitude background behaviour behavior body challenge comment comments conclusion
        conclusions context cost date day definition description detail details device duration email example examples fact
        feedback feeling finding findings format frustration goal goals headline hypothesis idea ideas impression impressions
        insight insights issue issues job language learning learnings length link location material materials mail memo method
        methods mood name need needs next note notes nb objective observation observations opinion opportunity outcome pain
        pains phone place plan pro pros con cons problem problems project prompt purpose question questions quote quotes recommendation
        recommendations reminder result results risk risks role scenario session setting setup source step steps study subject
        suggestion suggestions summary task tasks theme themes thought thoughts time tip title todo tools topic topics
        transcript type url version warning warm-up website wish weather monday tuesday wednesday thursday friday saturday
        sunday january february march april june july august september october november december morning afternoon evening
        """
    );

    private static readonly HashSet<string> Sounds = Set(
        """
        applause background crosstalk beep break cough coughs inaudible indistinct laugh laughing laughs laughter music noise
        overlapping pause phone recording redacted silence sigh sighs sound unclear unintelligible unknown
        """
    );

    /// <summary>How a label looks by itself.</summary>
    public static LabelLook Of(string label)
    {
        var bare = Bare(label);
        if (Role.IsMatch(bare))
            return LabelLook.Role;
        var words = bare.Split((char[])[' ', '\u00A0', ','], StringSplitOptions.RemoveEmptyEntries);
        if (words.Length == 0 || words.Any(w => Sounds.Contains(w)) && words.Length < 3)
            return LabelLook.Prose;
        if (words.Length > 1 && (SmallWords.Contains(words[0]) || words.Skip(1).Any(w => char.IsLower(w[0]) && SmallWords.Contains(w))))
            return LabelLook.Prose;
        if (words.Length == 1 && SmallWords.Contains(words[0]))
            return LabelLook.Prose;
        if (words.Length > 4)
            return LabelLook.Prose;
        if (words.Any(NoteWords.Contains))
            return LabelLook.Word;
        if (words.Length == 1)
            return LabelLook.Name;
        // What is said of the person behind a comma is no name.
        var name = bare.Split(',')[0].Split((char[])[' ', '\u00A0'], StringSplitOptions.RemoveEmptyEntries);
        return name.All(w => !char.IsLower(w[0]) || Particles.Contains(w)) ? LabelLook.Name : LabelLook.Word;
    }

    /// <summary>Whether it is what notes are headed by: "Problem", "Next steps".</summary>
    public static bool IsOfNotes(string label) => Bare(label).Split(' ').Any(NoteWords.Contains);

    /// <summary>The name without what is said of the person in brackets behind it, and without "continued".</summary>
    public static string Bare(string label)
    {
        var bracket = label.IndexOfAny(['(', '[', '（']);
        return bracket > 0 ? label[..bracket].Trim() : label.Trim();
    }

    private static readonly HashSet<string> Particles = Set("de da del di du la le van von der den ten ter bin al el y and &");

    private static HashSet<string> Set(string words) =>
        new(words.Split((char[])[' ', '\n'], StringSplitOptions.RemoveEmptyEntries), StringComparer.OrdinalIgnoreCase);

    private static readonly Regex Role = new(
        @"^(?:(?:the )?(?:interviewer|interviewee|moderator|facilitator|researcher|respondent|participant|speaker|host|guest|observer"
            + @"|note-?taker|user|customer|client|tester|person|voice|subject|informant|operator|agent|attendee|panelist|female|male"
            + @"|man|woman)s?(?: ?#?[0-9]{1,3}| [A-Z])?|int|mod|res|part|resp|iv|ie|[A-Z]{1,3}[0-9]{1,4}|[QAIRPMSF]|[A-Z]{1,2}\.?)$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    );
}
