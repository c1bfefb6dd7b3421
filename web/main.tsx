import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { App } from './app.tsx';
import './style.css';

const client = new QueryClient({
  defaultOptions: { queries: { staleTime: 5_000, refetchOnWindowFocus: true, retry: 1 } },
});

const show = (): void =>
  createRoot(document.getElementById('root')!).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <App />
      </QueryClientProvider>
    </StrictMode>,
  );

/** A page without its fonts is better than no page. */
const maxFontWaitMs = 2000;

// Letters of another width that come later would move what is there; where they do not come, others serve.
const fonts = ['Commissioner Variable', 'JetBrains Mono Variable'];
const loaded = Promise.all(fonts.map((name) => document.fonts.load(`1em "${name}"`)));
const bound = new Promise((resolve) => setTimeout(resolve, maxFontWaitMs));
void Promise.race([loaded, bound]).then(show, show);
