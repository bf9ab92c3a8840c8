import '@fontsource-variable/figtree';
import '@fontsource-variable/literata';
import '@fontsource-variable/literata/wght-italic.css';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { RouterProvider } from '@tanstack/react-router';
import { setNonce } from 'get-nonce';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Refusal } from './api/client';
import { makeRouter } from './shell/router';
import { applyTheme } from './shell/theme';
import 'sonner/dist/styles.css';
import './styles.css';

applyTheme();
// The few styles that dialogs put into the page carry the number that the server allows for this answer.
setNonce(document.querySelector<HTMLMetaElement>('meta[name=style-nonce]')?.content ?? '');

// What the server refused it refuses again; what got no answer is asked once more.
const retry = (failures: number, problem: Error) => failures < 1 && !(problem instanceof Refusal && problem.status >= 400 && problem.status < 500);
const cache = new QueryClient({ defaultOptions: { queries: { staleTime: 5_000, retry } } });
const router = makeRouter(cache);

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={cache}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
