import { createRootRouteWithContext, createRoute, createRouter, lazyRouteComponent, Outlet, redirect } from '@tanstack/react-router';
import { useQuery, type QueryClient } from '@tanstack/react-query';
import { Toaster } from 'sonner';
import { queries, type EvidenceOf } from '@/api/queries';
import { evidenceOf } from '@/shared/evidence';
import { Waiting } from '@/parts/Empty';
import { views, type View } from '@/gather/intake/views';
import { showOf, type Show } from '@/mark/reading/show';
import { lookingFor } from '@/mark/finding/looking';
import { piles, type Place } from '@/sort/suggestions/walk';
import { isDay, whereOf, type Where } from '@/shared/filter/where';
import { kinds, type Listing } from '@/mark/marginNotes/listed';
import type { HistoryOf } from '@/trail/HistoryPage';
import { foundKinds, type FoundKind } from '@/search/hits';
import { ReaderHome } from './ReaderHome';
import { StudyLayout } from './StudyLayout';
import { TeamLayout } from './TeamLayout';
import { useArrival } from './useArrival';

const number = (value: unknown) => (typeof value === 'number' && Number.isFinite(value) ? value : undefined);
const given = <T extends object>(of: T) => Object.fromEntries(Object.entries(of).filter(([, v]) => v !== undefined)) as Partial<T>;

function Root() {
  useArrival();
  return (
    <>
      <Outlet />
      <Toaster
        position="bottom-left"
        // Above the line at the foot of the page that says when the way to the server is cut.
        offset={{ bottom: 48, left: 24 }}
        toastOptions={{
          className: 'font-use',
          style: { background: 'var(--case)', color: 'var(--ink)', borderColor: 'var(--line)' },
          actionButtonStyle: { background: 'transparent', color: 'var(--sky)', fontWeight: 600, fontSize: 13, height: 26 },
        }}
      />
    </>
  );
}

const root = createRootRouteWithContext<{ cache: QueryClient }>()({
  component: Root,
  // Whoever is signed in still has the bar of the workspace above it.
  notFoundComponent: () => (
    <TeamLayout>
      <main className="border-t border-line">
        <Waiting problem={new Error('There is no page at this address. The studies are at the top left.')} />
      </main>
    </TeamLayout>
  ),
});

/** An address of this application, and of no other. */
const isOwn = (address: unknown): address is string => typeof address === 'string' && /^\/(?![/\\])/.test(address);
const signIn = createRoute({
  getParentRoute: () => root,
  path: '/sign-in',
  staticData: { title: 'Sign in' },
  // What is not its own is said to be nothing, or it would be taken as it stands.
  validateSearch: (search: Record<string, unknown>): { then?: string | undefined } => ({ then: isOwn(search['then']) ? search['then'] : undefined }),
  component: lazyRouteComponent(() => import('@/access/SignInPage'), 'SignInPage'),
});
const join = createRoute({
  getParentRoute: () => root,
  path: '/join/$token',
  staticData: { title: 'Join' },
  component: lazyRouteComponent(() => import('@/access/JoinPage'), 'JoinPage'),
});
const read = createRoute({
  getParentRoute: () => root,
  path: '/read/$token',
  staticData: { title: 'Exhibit' },
  component: lazyRouteComponent(() => import('@/show/publication/ReaderPage'), 'ReaderPage'),
});

function Team() {
  const me = useQuery(queries.me()).data?.account;
  return me?.role === 'reader' ? <ReaderHome name={me.name} /> : <TeamLayout />;
}
const team = createRoute({
  getParentRoute: () => root,
  id: 'team',
  component: Team,
  beforeLoad: async ({ context, location }) => {
    const me = await context.cache.fetchQuery({ ...queries.me(), staleTime: 60_000 });
    if (!me.account) throw redirect({ to: '/sign-in', search: location.pathname === '/' ? {} : { then: location.href } });
  },
  errorComponent: ({ error }) => <Waiting problem={error as Error} />,
});
const studies = createRoute({
  getParentRoute: () => team,
  path: '/',
  staticData: { title: 'Studies' },
  validateSearch: (search: Record<string, unknown>): { make?: true } => given({ make: search['make'] === true ? (true as const) : undefined }),
  component: lazyRouteComponent(() => import('@/gather/studies/StudiesPage'), 'StudiesPage'),
});
const tagSet = createRoute({
  getParentRoute: () => team,
  path: '/tags',
  staticData: { title: 'Tag set' },
  validateSearch: (search: Record<string, unknown>): { tag?: number | 'new' } => given({ tag: search['tag'] === 'new' ? 'new' : number(search['tag']) }),
  component: lazyRouteComponent(() => import('@/sort/tagSet/TagSetPage'), 'TagSetPage'),
});
const help = createRoute({
  getParentRoute: () => team,
  path: '/help',
  staticData: { title: 'Help' },
  component: lazyRouteComponent(() => import('./help/HelpPage'), 'HelpPage'),
});
const helpPage = createRoute({
  getParentRoute: () => team,
  path: '/help/$name',
  staticData: { title: 'Help' },
  component: lazyRouteComponent(() => import('./help/HelpPage'), 'HelpPage'),
});
const lookAlikes = createRoute({
  getParentRoute: () => team,
  path: '/tags/look-alikes',
  staticData: { title: 'Look-alikes' },
  component: lazyRouteComponent(() => import('@/sort/tagSet/LookAlikesPage'), 'LookAlikesPage'),
});
const proposals = createRoute({
  getParentRoute: () => team,
  path: '/tags/proposals',
  staticData: { title: 'Proposals' },
  component: lazyRouteComponent(() => import('@/sort/tagSet/proposals/ProposalsPage'), 'ProposalsPage'),
});
const across = createRoute({
  getParentRoute: () => team,
  path: '/tags/$tagId',
  staticData: { title: 'Tag over all studies' },
  params: { parse: (p) => ({ tagId: Number(p.tagId) }), stringify: (p) => ({ tagId: String(p.tagId) }) },
  component: lazyRouteComponent(() => import('@/sort/tagSet/AcrossPage'), 'AcrossPage'),
});
const aDay = (search: Record<string, unknown>): { day?: string } => given({ day: isDay(search['day']) ? search['day'] : undefined });
const tagHistory = createRoute({
  getParentRoute: () => team,
  path: '/tags/history',
  staticData: { title: 'Tag set, history' },
  validateSearch: aDay,
  component: lazyRouteComponent(() => import('@/sort/tagSet/history/TagHistoryPage'), 'TagHistoryPage'),
});
const people = createRoute({
  getParentRoute: () => team,
  path: '/people',
  staticData: { title: 'People' },
  component: lazyRouteComponent(() => import('@/access/PeoplePage'), 'PeoplePage'),
});
const search = createRoute({
  getParentRoute: () => team,
  path: '/search',
  staticData: { title: 'Search' },
  validateSearch: (search: Record<string, unknown>): { typed?: string; kind?: FoundKind } =>
    given({ typed: search['typed'] === undefined ? undefined : String(search['typed']), kind: foundKinds.find((k) => k === search['kind']) }),
  component: lazyRouteComponent(() => import('@/search/SearchPage'), 'SearchPage'),
});
const intake = createRoute({
  getParentRoute: () => team,
  path: '/intake',
  staticData: { title: 'Intake' },
  validateSearch: (search: Record<string, unknown>): { view?: View; study?: number } =>
    given({ view: views.find((v) => v === search['view']), study: number(search['study']) }),
  component: lazyRouteComponent(() => import('@/gather/intake/IntakePage'), 'IntakePage'),
});
const exhibits = createRoute({
  getParentRoute: () => team,
  path: '/exhibits',
  staticData: { title: 'Exhibits' },
  component: lazyRouteComponent(() => import('@/show/exhibits/ExhibitsPage'), 'ExhibitsPage'),
});
const exhibit = createRoute({
  getParentRoute: () => team,
  path: '/exhibits/$exhibitId',
  staticData: { title: 'Exhibit' },
  params: { parse: (p) => ({ exhibitId: Number(p.exhibitId) }), stringify: (p) => ({ exhibitId: String(p.exhibitId) }) },
  component: lazyRouteComponent(() => import('@/show/exhibits/ExhibitPage'), 'ExhibitPage'),
});
const study = createRoute({
  getParentRoute: () => team,
  path: '/studies/$studyId',
  staticData: { title: 'Front page' },
  params: { parse: (p) => ({ studyId: Number(p.studyId) }), stringify: (p) => ({ studyId: String(p.studyId) }) },
  validateSearch: (search: Record<string, unknown>): { evidence?: EvidenceOf; where?: Where } =>
    given({ evidence: evidenceOf(search['evidence']), where: whereOf(search['where']) }),
  // What every page of a study needs is asked for at once, beside the page's own code.
  loader: ({ context: { cache }, params: { studyId } }) => {
    void cache.prefetchQuery(queries.study(studyId));
    void cache.prefetchQuery(queries.participants(studyId));
    void cache.prefetchQuery(queries.tags(studyId));
    void cache.prefetchQuery(queries.tagCounts(studyId));
    void cache.prefetchQuery(queries.sources(studyId));
  },
  component: StudyLayout,
});
const front = createRoute({
  getParentRoute: () => study,
  path: '/',
  staticData: { title: 'Front page' },
  component: lazyRouteComponent(() => import('@/gather/studies/StudyFront'), 'StudyFront'),
});
const gather = createRoute({
  getParentRoute: () => study,
  path: '/gather',
  staticData: { title: 'Sources' },
  component: lazyRouteComponent(() => import('@/gather/sources/GatherPage'), 'GatherPage'),
});
const surveyTable = createRoute({
  getParentRoute: () => study,
  path: '/gather/table/$table',
  staticData: { title: 'Import a table' },
  component: lazyRouteComponent(() => import('@/gather/surveys/SurveyPage'), 'SurveyPage'),
});
const participants = createRoute({
  getParentRoute: () => study,
  path: '/gather/people',
  staticData: { title: 'Participants' },
  component: lazyRouteComponent(() => import('@/gather/participants/ParticipantsPage'), 'ParticipantsPage'),
});
const sessions = createRoute({
  getParentRoute: () => study,
  path: '/gather/sessions',
  staticData: { title: 'Sessions' },
  component: lazyRouteComponent(() => import('@/gather/sessions/SessionsPage'), 'SessionsPage'),
});
const live = createRoute({
  getParentRoute: () => study,
  path: '/gather/sessions/$sessionId/live',
  staticData: { title: 'Live notes' },
  params: { parse: (p) => ({ sessionId: Number(p.sessionId) }), stringify: (p) => ({ sessionId: String(p.sessionId) }) },
  component: lazyRouteComponent(() => import('@/gather/liveNotes/LivePage'), 'LivePage'),
});
const attachments = createRoute({
  getParentRoute: () => study,
  path: '/gather/attachments',
  staticData: { title: 'Attachments' },
  component: lazyRouteComponent(() => import('@/gather/attachments/AttachmentsPage'), 'AttachmentsPage'),
});
const person = createRoute({
  getParentRoute: () => study,
  path: '/gather/people/$personId',
  staticData: { title: 'Participant' },
  params: { parse: (p) => ({ personId: Number(p.personId) }), stringify: (p) => ({ personId: String(p.personId) }) },
  component: lazyRouteComponent(() => import('@/gather/participants/PersonPage'), 'PersonPage'),
});
const withdraw = createRoute({
  getParentRoute: () => study,
  path: '/gather/people/$personId/withdraw',
  staticData: { title: 'Withdraw' },
  params: { parse: (p) => ({ personId: Number(p.personId) }), stringify: (p) => ({ personId: String(p.personId) }) },
  component: lazyRouteComponent(() => import('@/gather/privacy/WithdrawPage'), 'WithdrawPage'),
});
const look = createRoute({
  getParentRoute: () => study,
  path: '/gather/look',
  staticData: { title: 'Names to look at' },
  validateSearch: (search: Record<string, unknown>): { sources?: string } => ({
    sources: String(search['sources'] ?? '')
      .split(',')
      .filter((id) => /^\d{1,15}$/.test(id))
      .join(','),
  }),
  component: lazyRouteComponent(() => import('@/gather/turns/LookPage'), 'LookPage'),
});
const privacy = createRoute({
  getParentRoute: () => study,
  path: '/gather/privacy',
  staticData: { title: 'Privacy' },
  validateSearch: (search: Record<string, unknown>): { source?: number } => given({ source: number(search['source']) }),
  component: lazyRouteComponent(() => import('@/gather/privacy/PrivacyPage'), 'PrivacyPage'),
});
const mark = createRoute({
  getParentRoute: () => study,
  path: '/mark',
  staticData: { title: 'Mark' },
  validateSearch: (search: Record<string, unknown>): { source?: number; beside?: number; at?: number; place?: number; put?: number; show?: Show } =>
    given({
      source: number(search['source']),
      beside: number(search['beside']),
      at: number(search['at']),
      place: number(search['place']),
      put: number(search['put']),
      show: showOf(search['show']),
    }),
  loaderDeps: ({ search }) => ({ source: search.source }),
  loader: ({ context: { cache }, deps: { source } }) => {
    if (source === undefined) return;
    void cache.prefetchQuery(queries.source(source));
    void cache.prefetchQuery(queries.sentences(source));
    void cache.prefetchQuery(queries.observations(source));
  },
  component: lazyRouteComponent(() => import('./MarkRoom'), 'MarkRoom'),
});
const correct = createRoute({
  getParentRoute: () => study,
  path: '/mark/correct/$sourceId',
  staticData: { title: 'Correct' },
  params: { parse: (p) => ({ sourceId: Number(p.sourceId) }), stringify: (p) => ({ sourceId: String(p.sourceId) }) },
  component: lazyRouteComponent(() => import('@/gather/corrections/CorrectPage'), 'CorrectPage'),
});
const toLookAt = createRoute({
  getParentRoute: () => study,
  path: '/mark/to-look-at',
  staticData: { title: 'To look at' },
  component: lazyRouteComponent(() => import('@/gather/corrections/ToLookAtPage'), 'ToLookAtPage'),
});
const notes = createRoute({
  getParentRoute: () => study,
  path: '/mark/notes',
  staticData: { title: 'Notes' },
  validateSearch: (search: Record<string, unknown>): Listing =>
    given({
      kind: kinds.find((k) => k === search['kind']),
      words: search['words'] === undefined ? undefined : String(search['words']),
    }),
  component: lazyRouteComponent(() => import('@/mark/marginNotes/NotesPage'), 'NotesPage'),
});
const find = createRoute({
  getParentRoute: () => study,
  path: '/mark/find',
  staticData: { title: 'Find' },
  validateSearch: lookingFor,
  component: lazyRouteComponent(() => import('@/mark/finding/FindPage'), 'FindPage'),
});
const found = createRoute({
  getParentRoute: () => study,
  path: '/mark/found',
  staticData: { title: 'Found, not reviewed' },
  validateSearch: (search: Record<string, unknown>): { tag?: number } => given({ tag: number(search['tag']) }),
  component: lazyRouteComponent(() => import('@/mark/finding/FoundPage'), 'FoundPage'),
});
const moreBegin = createRoute({
  getParentRoute: () => study,
  path: '/mark/more',
  staticData: { title: 'Find more' },
  validateSearch: (search: Record<string, unknown>): { source: number; start: number; end: number } => ({
    source: number(search['source']) ?? 0,
    start: number(search['start']) ?? 0,
    end: number(search['end']) ?? 0,
  }),
  component: lazyRouteComponent(() => import('@/mark/finding/MoreBegin'), 'MoreBegin'),
});
const more = createRoute({
  getParentRoute: () => study,
  path: '/mark/more/$tagId',
  staticData: { title: 'Find more' },
  params: { parse: (p) => ({ tagId: Number(p.tagId) }), stringify: (p) => ({ tagId: String(p.tagId) }) },
  validateSearch: (search: Record<string, unknown>): { like?: number; theme?: number } =>
    given({ like: number(search['like']), theme: number(search['theme']) }),
  component: lazyRouteComponent(() => import('@/mark/finding/MorePage'), 'MorePage'),
});
const history = createRoute({
  getParentRoute: () => study,
  path: '/history',
  staticData: { title: 'History' },
  validateSearch: (search: Record<string, unknown>): HistoryOf =>
    given({
      day: typeof search['day'] === 'string' && /^\d{4}-\d{2}-\d{2}$/.test(search['day']) ? search['day'] : undefined,
      by: number(search['by']),
      source: number(search['source']),
      tag: number(search['tag']),
    }),
  component: lazyRouteComponent(() => import('@/trail/HistoryPage'), 'HistoryPage'),
});
const tagPage = createRoute({
  getParentRoute: () => study,
  path: '/tags/$tagId',
  staticData: { title: 'Tag' },
  params: { parse: (p) => ({ tagId: Number(p.tagId) }), stringify: (p) => ({ tagId: String(p.tagId) }) },
  component: lazyRouteComponent(() => import('@/sort/tagSet/TagPage'), 'TagPage'),
});
const sort = createRoute({
  getParentRoute: () => study,
  path: '/sort',
  staticData: { title: 'Sort' },
  validateSearch: (search: Record<string, unknown>): { theme?: number } => given({ theme: number(search['theme']) }),
  component: lazyRouteComponent(() => import('@/sort/themes/SortPage'), 'SortPage'),
});
const outline = createRoute({
  getParentRoute: () => study,
  path: '/sort/outline',
  staticData: { title: 'Themes, outline' },
  component: lazyRouteComponent(() => import('@/sort/themes/OutlinePage'), 'OutlinePage'),
});
const themePage = createRoute({
  getParentRoute: () => study,
  path: '/sort/themes/$themeId',
  staticData: { title: 'Theme' },
  params: { parse: (p) => ({ themeId: Number(p.themeId) }), stringify: (p) => ({ themeId: String(p.themeId) }) },
  component: lazyRouteComponent(() => import('@/sort/themes/ThemePage'), 'ThemePage'),
});
const suggestions = createRoute({
  getParentRoute: () => study,
  path: '/sort/suggestions',
  staticData: { title: 'Suggestions' },
  component: lazyRouteComponent(() => import('@/sort/suggestions/SuggestionsPage'), 'SuggestionsPage'),
});
const suggestion = createRoute({
  getParentRoute: () => study,
  path: '/sort/suggestions/$suggestionId',
  staticData: { title: 'Suggestions' },
  params: { parse: (p) => ({ suggestionId: Number(p.suggestionId) }), stringify: (p) => ({ suggestionId: String(p.suggestionId) }) },
  validateSearch: (search: Record<string, unknown>): { at?: Place } => given({ at: piles.find((p) => p === search['at']) ?? number(search['at']) }),
  component: lazyRouteComponent(() => import('@/sort/suggestions/SuggestionPage'), 'SuggestionPage'),
});
const whoNext = createRoute({
  getParentRoute: () => study,
  path: '/sort/who-next',
  staticData: { title: 'Who next' },
  validateSearch: (search: Record<string, unknown>): { theme?: number; question?: number } =>
    given({ theme: number(search['theme']), question: number(search['question']) }),
  component: lazyRouteComponent(() => import('@/sort/whoNext/WhoNextPage'), 'WhoNextPage'),
});
const studyTagSet = createRoute({
  getParentRoute: () => study,
  path: '/sort/tags',
  staticData: { title: 'Tag set' },
  validateSearch: (search: Record<string, unknown>): { tag?: number | 'new' } => given({ tag: search['tag'] === 'new' ? 'new' : number(search['tag']) }),
  component: lazyRouteComponent(() => import('@/sort/tagSet/TagSetPage'), 'StudyTagSetPage'),
});
const studyTagHistory = createRoute({
  getParentRoute: () => study,
  path: '/sort/tags/history',
  staticData: { title: 'Tag set, history' },
  validateSearch: aDay,
  component: lazyRouteComponent(() => import('@/sort/tagSet/history/TagHistoryPage'), 'StudyTagHistoryPage'),
});
const studyLookAlikes = createRoute({
  getParentRoute: () => study,
  path: '/sort/tags/look-alikes',
  staticData: { title: 'Look-alikes' },
  component: lazyRouteComponent(() => import('@/sort/tagSet/LookAlikesPage'), 'StudyLookAlikesPage'),
});
const split = createRoute({
  getParentRoute: () => study,
  path: '/sort/split/$tagId',
  staticData: { title: 'Split a tag' },
  params: { parse: (p) => ({ tagId: Number(p.tagId) }), stringify: (p) => ({ tagId: String(p.tagId) }) },
  component: lazyRouteComponent(() => import('@/sort/tagSet/split/SplitPage'), 'SplitPage'),
});
const weigh = createRoute({
  getParentRoute: () => study,
  path: '/weigh',
  staticData: { title: 'Weigh' },
  validateSearch: (search: Record<string, unknown>): { view?: 'participants' | 'overlaps'; overlap?: 'touching' } =>
    given({
      view: search['view'] === 'participants' || search['view'] === 'overlaps' ? search['view'] : undefined,
      overlap: search['overlap'] === 'touching' ? search['overlap'] : undefined,
    }) as { view?: 'participants' | 'overlaps'; overlap?: 'touching' },
  component: lazyRouteComponent(() => import('@/weigh/tables/WeighPage'), 'WeighPage'),
});
const agreement = createRoute({
  getParentRoute: () => study,
  path: '/weigh/agreement',
  staticData: { title: 'Agreement' },
  validateSearch: (
    search: Record<string, unknown>,
  ): { first?: number | undefined; second?: number | undefined; unit?: 'turn' | 'second' | undefined; source?: number | undefined; tag?: number | undefined } =>
    given({
      first: number(search['first']),
      second: number(search['second']),
      unit: search['unit'] === 'turn' || search['unit'] === 'second' ? search['unit'] : undefined,
      source: number(search['source']),
      tag: number(search['tag']),
    }),
  component: lazyRouteComponent(() => import('@/weigh/agreement/AgreementPage'), 'AgreementPage'),
});
const show = createRoute({
  getParentRoute: () => study,
  path: '/show',
  staticData: { title: 'Show' },
  component: lazyRouteComponent(() => import('@/show/insights/ShowPage'), 'ShowPage'),
});
const insight = createRoute({
  getParentRoute: () => study,
  path: '/show/$insightId',
  staticData: { title: 'Insight' },
  params: { parse: (p) => ({ insightId: Number(p.insightId) }), stringify: (p) => ({ insightId: String(p.insightId) }) },
  component: lazyRouteComponent(() => import('@/show/insights/InsightPage'), 'InsightPage'),
});

const tree = root.addChildren([
  signIn,
  join,
  read,
  team.addChildren([
    help,
    helpPage,
    studies,
    tagSet,
    lookAlikes,
    tagHistory,
    proposals,
    across,
    people,
    search,
    exhibits,
    exhibit,
    intake,
    study.addChildren([
      front,
      gather,
      look,
      surveyTable,
      sessions,
      live,
      attachments,
      participants,
      person,
      withdraw,
      privacy,
      mark,
      correct,
      toLookAt,
      notes,
      find,
      found,
      moreBegin,
      more,
      tagPage,
      history,
      sort,
      outline,
      themePage,
      suggestions,
      suggestion,
      whoNext,
      studyTagSet,
      studyTagHistory,
      studyLookAlikes,
      split,
      weigh,
      agreement,
      show,
      insight,
    ]),
  ]),
]);

export const makeRouter = (cache: QueryClient) => createRouter({ routeTree: tree, context: { cache }, defaultPreload: false, scrollRestoration: true });

declare module '@tanstack/react-router' {
  interface StaticDataRouteOption {
    /** What a page is called in the browser; inside a study, the study’s title follows. */
    title?: string;
  }
  interface Register {
    router: ReturnType<typeof makeRouter>;
  }
}
