using Vitrine.Core.Counting;
using Vitrine.Core.Weigh.Tables;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Weigh.Tables;

namespace Vitrine.Server.Weigh.Tables;

internal static class TableEndpoints
{
    public static void MapTables(this RouteGroupBuilder api)
    {
        var study = api.MapGroup("/studies/{studyId:long}").WithTags("Weigh");
        study.MapGet(
            "/tag-counts",
            (StudyId studyId, Conditions? where, SignedIn me, TableStore tables) => tables.TagCounts(studyId, me.Id, where)
        );
        study.MapGet(
            "/table",
            (StudyId studyId, Choice<TableColumns> columns, Conditions? where, SignedIn me, TableStore tables) =>
                tables.Tags(studyId, columns, me.Id, where)
        );
        study.MapGet(
            "/overlaps",
            (StudyId studyId, Choice<OverlapKind> kind, Conditions? where, SignedIn me, TableStore tables) =>
                tables.Overlaps(studyId, kind, me.Id, where)
        );
    }
}
