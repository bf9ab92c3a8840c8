using Vitrine.Server.Gather.Privacy;
using Vitrine.Server.Gather.Turns;
using Vitrine.Server.Media;
using Vitrine.Server.Show.Insights;
using Vitrine.Server.Sort.Suggestions;
using Vitrine.Server.Sort.Themes;
using Vitrine.Server.Sort.WhoNext;
using Vitrine.Storage.Access;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Gather.Attachments;
using Vitrine.Storage.Gather.Corrections;
using Vitrine.Storage.Gather.Intake;
using Vitrine.Storage.Gather.LiveNotes;
using Vitrine.Storage.Gather.Participants;
using Vitrine.Storage.Gather.Privacy;
using Vitrine.Storage.Gather.Sessions;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Gather.Studies;
using Vitrine.Storage.Gather.Surveys;
using Vitrine.Storage.Gather.Turns;
using Vitrine.Storage.Jobs;
using Vitrine.Storage.Mark.Blind;
using Vitrine.Storage.Mark.Finding;
using Vitrine.Storage.Mark.MarginNotes;
using Vitrine.Storage.Mark.Observations;
using Vitrine.Storage.Mark.Reading;
using Vitrine.Storage.Mark.Recordings;
using Vitrine.Storage.Media;
using Vitrine.Storage.Search;
using Vitrine.Storage.Show.Exhibits;
using Vitrine.Storage.Show.Insights;
using Vitrine.Storage.Show.Publication;
using Vitrine.Storage.Sort.Suggestions;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Sort.Themes;
using Vitrine.Storage.Text;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Uses;
using Vitrine.Storage.Weigh.Agreement;
using Vitrine.Storage.Weigh.Evidence;
using Vitrine.Storage.Weigh.Filters;
using Vitrine.Storage.Weigh.Tables;

namespace Vitrine.Server;

/// <summary>What keeps the data of the workspace: one of each.</summary>
internal static class Stores
{
    public static readonly IReadOnlyList<Type> All =
    [
        typeof(AccountStore),
        typeof(InvitationStore),
        typeof(StudyAccess),
        typeof(SearchStore),
        typeof(StudyStore),
        typeof(ParticipantStore),
        typeof(SourceStore),
        typeof(RecordedSourceStore),
        typeof(TurnStore),
        typeof(CorrectionStore),
        typeof(SurveyStore),
        typeof(FolderStore),
        typeof(SessionStore),
        typeof(LiveNotesStore),
        typeof(AttachmentStore),
        typeof(ObservationStore),
        typeof(ObservationPieces),
        typeof(MarginNoteStore),
        typeof(StudyTexts),
        typeof(PassageStore),
        typeof(FoundStore),
        typeof(MoreStore),
        typeof(AgreementStore),
        typeof(SavedFilterStore),
        typeof(UsesStore),
        typeof(TagMerge),
        typeof(CodebookStore),
        typeof(LookAlikeStore),
        typeof(SplitStore),
        typeof(SplitTag),
        typeof(BundleStore),
        typeof(ProposalStore),
        typeof(TagHistoryStore),
        typeof(ContextStore),
        typeof(BlindStore),
        typeof(ObservationFinder),
        typeof(RecordingStore),
        typeof(ProtectionStore),
        typeof(Cutouts),
        typeof(TranscriptsInStep),
        typeof(NoteList),
        typeof(PenStore),
        typeof(ReadingStore),
        typeof(SortingLookStore),
        typeof(QuoteStore),
        typeof(TagStore),
        typeof(TagReachStore),
        typeof(TagCellStore),
        typeof(SuggestionStore),
        typeof(ThemeStore),
        typeof(JobStore),
        typeof(MediaFolder),
        typeof(IntakeStore),
        typeof(ArrivalStore),
        typeof(LetStandStore),
        typeof(MaskStore),
        typeof(WithdrawalStore),
        typeof(Erasure),
        typeof(SourceReading),
        typeof(TagUseStore),
        typeof(NotAskedStore),
        typeof(TableStore),
        typeof(StudyIndexStore),
        typeof(SeenStudies),
        typeof(InsightStore),
        typeof(ErasedFiles),
        typeof(InsightPages),
        typeof(Suggesting),
        typeof(SuggestionViews),
        typeof(ThemeViews),
        typeof(WhoNextViews),
        typeof(UnsortedViews),
        typeof(LeftOutStore),
        typeof(PublicationStore),
        typeof(ExhibitStore),
        typeof(TrailStore),
        typeof(Undo),
    ];
}
