import { createRootRouteWithContext, createRoute, createRouter, Outlet, redirect } from '@tanstack/react-router';
import type { QueryClient } from '@tanstack/react-query';
import { Toaster } from 'sonner';
import { queries, type EvidenceOf } from '@/api/queries';
import { GatherPage } from '@/gather/GatherPage';
import { StudiesPage } from '@/gather/StudiesPage';
import { StudyFront } from '@/gather/StudyFront';
import { MarkPage } from '@/mark/MarkPage';
import { Waiting } from '@/parts/Empty';
import { ExhibitPage } from '@/show/ExhibitPage';
import { ExhibitsPage } from '@/show/ExhibitsPage';
import { InsightPage } from '@/show/InsightPage';
import { ReaderPage } from '@/show/ReaderPage';
import { ShowPage } from '@/show/ShowPage';
import { SortPage } from '@/sort/SortPage';
import { TagSetPage } from '@/sort/TagSetPage';
import { WeighPage } from '@/weigh/WeighPage';
import { foundKinds, type FoundKind } from './hits';
import { JoinPage } from './JoinPage';
import { PeoplePage } from './PeoplePage';
import { SearchPage } from './SearchPage';
import { SignInPage } from './SignInPage';
import { StudyLayout } from './StudyLayout';
import { TeamLayout } from './TeamLayout';

const number = (value: unknown) => (typeof value === 'number' && Number.isFinite(value) ? value : undefined);
const given = <T extends object>(of: T) => Object.fromEntries(Object.entries(of).filter(([, v]) => v !== undefined)) as Partial<T>;

function evidenceOf(value: unknown): EvidenceOf | undefined {
  if (typeof value !== 'object' || value === null) return undefined;
  const v = value as Record<string, unknown>;
  const overlap = v['overlap'] === 'touching' || v['overlap'] === 'sameObservation' ? v['overlap'] : undefined;
  return given({
    tagId: number(v['tagId']),
    otherTagId: number(v['otherTagId']),
    overlap,
    themeId: number(v['themeId']),
    sourceId: number(v['sourceId']),
    participantId: number(v['participantId']),
  }) as EvidenceOf;
}

const root = createRootRouteWithContext<{ cache: QueryClient }>()({
  component: () => (
    <>
      <Outlet />
      <Toaster
        position="bottom-left"
        toastOptions={{
          className: 'font-use',
          style: { background: 'var(--case)', color: 'var(--ink)', borderColor: 'var(--line)' },
          actionButtonStyle: { background: 'transparent', color: 'var(--sky)', fontWeight: 600, fontSize: 13, height: 26 },
        }}
      />
    </>
  ),
  notFoundComponent: () => <Waiting problem={new Error('There is no page at this address. The studies are at the top left.')} />,
});

const signIn = createRoute({ getParentRoute: () => root, path: '/sign-in', component: SignInPage });
const join = createRoute({ getParentRoute: () => root, path: '/join/$token', component: JoinPage });
const read = createRoute({ getParentRoute: () => root, path: '/read/$token', component: ReaderPage });

const team = createRoute({
  getParentRoute: () => root,
  id: 'team',
  component: TeamLayout,
  beforeLoad: async ({ context }) => {
    const me = await context.cache.fetchQuery({ ...queries.me(), staleTime: 60_000 });
    if (!me.account) throw redirect({ to: '/sign-in' });
  },
  errorComponent: ({ error }) => <Waiting problem={error as Error} />,
});
const studies = createRoute({
  getParentRoute: () => team,
  path: '/',
  validateSearch: (search: Record<string, unknown>): { make?: true } => given({ make: search['make'] === true ? (true as const) : undefined }),
  component: StudiesPage,
});
const tagSet = createRoute({
  getParentRoute: () => team,
  path: '/tags',
  validateSearch: (search: Record<string, unknown>): { tag?: number | 'new' } => given({ tag: search['tag'] === 'new' ? 'new' : number(search['tag']) }),
  component: TagSetPage,
});
const people = createRoute({ getParentRoute: () => team, path: '/people', component: PeoplePage });
const search = createRoute({
  getParentRoute: () => team,
  path: '/search',
  validateSearch: (search: Record<string, unknown>): { typed?: string; kind?: FoundKind } =>
    given({ typed: search['typed'] === undefined ? undefined : String(search['typed']), kind: foundKinds.find((k) => k === search['kind']) }),
  component: SearchPage,
});
const exhibits = createRoute({ getParentRoute: () => team, path: '/exhibits', component: ExhibitsPage });
const exhibit = createRoute({
  getParentRoute: () => team,
  path: '/exhibits/$exhibitId',
  params: { parse: (p) => ({ exhibitId: Number(p.exhibitId) }), stringify: (p) => ({ exhibitId: String(p.exhibitId) }) },
  component: ExhibitPage,
});
const study = createRoute({
  getParentRoute: () => team,
  path: '/studies/$studyId',
  params: { parse: (p) => ({ studyId: Number(p.studyId) }), stringify: (p) => ({ studyId: String(p.studyId) }) },
  validateSearch: (search: Record<string, unknown>): { evidence?: EvidenceOf } => {
    const evidence = evidenceOf(search['evidence']);
    return evidence ? { evidence } : {};
  },
  component: StudyLayout,
});
const front = createRoute({ getParentRoute: () => study, path: '/', component: StudyFront });
const gather = createRoute({ getParentRoute: () => study, path: '/gather', component: GatherPage });
const mark = createRoute({
  getParentRoute: () => study,
  path: '/mark',
  validateSearch: (search: Record<string, unknown>): { source?: number; at?: number; place?: number } =>
    given({ source: number(search['source']), at: number(search['at']), place: number(search['place']) }),
  component: MarkPage,
});
const sort = createRoute({
  getParentRoute: () => study,
  path: '/sort',
  validateSearch: (search: Record<string, unknown>): { theme?: number } => given({ theme: number(search['theme']) }),
  component: SortPage,
});
const weigh = createRoute({
  getParentRoute: () => study,
  path: '/weigh',
  validateSearch: (search: Record<string, unknown>): { view?: 'participants' | 'overlaps'; overlap?: 'touching' } =>
    given({
      view: search['view'] === 'participants' || search['view'] === 'overlaps' ? search['view'] : undefined,
      overlap: search['overlap'] === 'touching' ? search['overlap'] : undefined,
    }) as { view?: 'participants' | 'overlaps'; overlap?: 'touching' },
  component: WeighPage,
});
const show = createRoute({ getParentRoute: () => study, path: '/show', component: ShowPage });
const insight = createRoute({
  getParentRoute: () => study,
  path: '/show/$insightId',
  params: { parse: (p) => ({ insightId: Number(p.insightId) }), stringify: (p) => ({ insightId: String(p.insightId) }) },
  component: InsightPage,
});

const tree = root.addChildren([
  signIn,
  join,
  read,
  team.addChildren([studies, tagSet, people, search, exhibits, exhibit, study.addChildren([front, gather, mark, sort, weigh, show, insight])]),
]);

export const makeRouter = (cache: QueryClient) => createRouter({ routeTree: tree, context: { cache }, defaultPreload: false, scrollRestoration: true });

declare module '@tanstack/react-router' {
  interface Register {
    router: ReturnType<typeof makeRouter>;
  }
}
