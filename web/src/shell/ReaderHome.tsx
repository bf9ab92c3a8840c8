import { Button } from '@/parts/Button';
import { Empty } from '@/parts/Empty';
import { useLeaving } from './useLeaving';

/** What a reader sees who signs in: readers are sent links, and need no account for them. */
export function ReaderHome({ name }: { name: string }) {
  const leave = useLeaving();
  return (
    <main className="pt-[10vh]">
      <Empty title={`Welcome, ${name}`} action={<Button onClick={() => leave(false)}>Sign out</Button>}>
        You are a reader here. What the team has published for you opens by the links that they send you; no sign-in is needed for them. If you are to work on
        studies, ask the steward for another role.
      </Empty>
    </main>
  );
}
