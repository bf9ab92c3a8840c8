// @vitest-environment jsdom
import { createRoot } from 'react-dom/client';
import { expect, it, vi } from 'vitest';
import { usePageKeys } from './usePageKeys';

function Bar({ onTag }: { onTag: () => void }) {
  usePageKeys({ t: onTag });
  return <p>2 passages chosen</p>;
}

it('a key pressed the moment something is seen is taken by it', async () => {
  // Outside of act, as in a browser: what React does after painting has not been done when the page changes.
  vi.stubGlobal('IS_REACT_ACT_ENVIRONMENT', false);
  const place = document.body.appendChild(document.createElement('div'));
  const onTag = vi.fn();
  const seen = new Promise<void>((resolve) => {
    const observer = new MutationObserver(() => {
      observer.disconnect();
      document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 't', bubbles: true, cancelable: true }));
      resolve();
    });
    observer.observe(place, { childList: true });
  });
  const root = createRoot(place);
  root.render(<Bar onTag={onTag} />);
  await seen;
  expect(onTag).toHaveBeenCalledOnce();
  root.unmount();
  vi.unstubAllGlobals();
});
