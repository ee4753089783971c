import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { App as Antd, ConfigProvider } from 'antd';
import { lazy, StrictMode, Suspense } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, Route, Routes } from 'react-router';
import { Problem } from './api/client';
import { keepForAway } from './away/away';
import { Frame } from './frame/Frame';
import { Passphrase } from './frame/Passphrase';
import { Machines } from './machines/Machines';
import { theme } from './theme/theme';
import './theme/base.css';

const Home = lazy(() => import('./floor/FloorPage').then(m => ({ default: m.FloorPage })));
const ConverterPage = lazy(() => import('./floor/ConverterPage').then(m => ({ default: m.ConverterPage })));
const DayCard = lazy(() => import('./floor/DayCard').then(m => ({ default: m.DayCard })));
const Card = lazy(() => import('./card/Card').then(m => ({ default: m.Card })));
const Rulebook = lazy(() => import('./rulebook/Rulebook').then(m => ({ default: m.Rulebook })));
const Daybook = lazy(() => import('./daybook/Daybook').then(m => ({ default: m.Daybook })));
const LogPage = lazy(() => import('./daybook/LogPage').then(m => ({ default: m.LogPage })));
const SourcesPage = lazy(() => import('./card/SourcesPage').then(m => ({ default: m.SourcesPage })));
const Bench = lazy(() => import('./bench/Bench').then(m => ({ default: m.Bench })));
const KeypadPage = lazy(() => import('./bench/KeypadPage').then(m => ({ default: m.KeypadPage })));
const Stores = lazy(() => import('./stores/Stores').then(m => ({ default: m.Stores })));
const SheetPage = lazy(() => import('./sheet/SheetPage').then(m => ({ default: m.SheetPage })));

const queries = new QueryClient({
  // A refusal is no better the second time; only a server that failed or is away is asked again.
  defaultOptions: {
    queries: {
      retry: (failures, fault) =>
        failures < 1 && !(fault instanceof Problem && fault.status >= 400 && fault.status < 500),
      staleTime: 5_000,
      networkMode: 'always', // without signal there is what was kept
    },
    mutations: { networkMode: 'always' },
  },
});
const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce ?? '';

// Some parts of the component library make style elements without the page's
// nonce, which its content policy wants on every one.
const make = document.createElement.bind(document) as (tag: string, options?: ElementCreationOptions) => HTMLElement;
document.createElement = ((tag: string, options?: ElementCreationOptions) => {
  const element = make(tag, options);
  if (tag === 'style') element.nonce = nonce;
  return element;
}) as typeof document.createElement;

/** Everything of a shop, for those who may see it. */
const Shop = () => (
  <Passphrase>
    <Routes>
      <Route element={<Frame />}>
        <Route
          index
          element={
            <Suspense>
              <Home />
            </Suspense>
          }
        />
        <Route
          path="converters/:converter"
          element={
            <Suspense>
              <ConverterPage />
            </Suspense>
          }
        />
        <Route
          path="day"
          element={
            <Suspense>
              <DayCard />
            </Suspense>
          }
        />
        <Route
          path="stores"
          element={
            <Suspense>
              <Stores />
            </Suspense>
          }
        />
        <Route
          path="bench"
          element={
            <Suspense>
              <Bench />
            </Suspense>
          }
        />
        <Route
          path="daybook"
          element={
            <Suspense>
              <Daybook />
            </Suspense>
          }
        />
        <Route
          path="daybook/print"
          element={
            <Suspense>
              <LogPage />
            </Suspense>
          }
        />
        <Route path="machines" element={<Machines />} />
        <Route
          path="machines/:machine/:step?"
          element={
            <Suspense>
              <Card />
            </Suspense>
          }
        />
        <Route
          path="motors/:motor/sources"
          element={
            <Suspense>
              <SourcesPage />
            </Suspense>
          }
        />
        <Route
          path="motors/:motor/sheet"
          element={
            <Suspense>
              <SheetPage />
            </Suspense>
          }
        />
        <Route
          path="rulebook"
          element={
            <Suspense>
              <Rulebook />
            </Suspense>
          }
        />
        <Route path="*" element={<Machines />} />
      </Route>
    </Routes>
  </Passphrase>
);

keepForAway();

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <ConfigProvider theme={theme} csp={{ nonce }}>
      <Antd>
        <QueryClientProvider client={queries}>
          <BrowserRouter>
            <Routes>
              <Route
                path="keypad/:drive"
                element={
                  <Suspense>
                    <KeypadPage />
                  </Suspense>
                }
              />
              <Route path="*" element={<Shop />} />
            </Routes>
          </BrowserRouter>
        </QueryClientProvider>
      </Antd>
    </ConfigProvider>
  </StrictMode>,
);
