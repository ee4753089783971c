import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { ConfigProvider, notification } from 'antd';
import { lazy, StrictMode, useMemo, type ComponentType, type ReactNode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, Route, Routes } from 'react-router';
import { Problem } from './api/client';
import { keepForAway } from './away/away';
import { Frame } from './frame/Frame';
import { Passphrase } from './frame/Passphrase';
import { Later } from './parts/Later';
import { ShownNotes } from './parts/notes';
import { useTorch } from './theme/display';
import { themeNow } from './theme/theme';
import './theme/base.css';
import './theme/thumb.css';

const Machines = lazy(() => import('./machines/Machines').then(m => ({ default: m.Machines })));
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

/** A page whose script is fetched when it is first gone to. */
const Page = ({ of: Of }: { of: ComponentType }) => (
  <Later>
    <Of />
  </Later>
);

/** Everything of a shop, for those who may see it. */
const Shop = () => (
  <Passphrase>
    <Routes>
      <Route element={<Frame />}>
        <Route index element={<Page of={Home} />} />
        <Route path="converters/:converter" element={<Page of={ConverterPage} />} />
        <Route path="day" element={<Page of={DayCard} />} />
        <Route path="stores" element={<Page of={Stores} />} />
        <Route path="bench" element={<Page of={Bench} />} />
        <Route path="daybook" element={<Page of={Daybook} />} />
        <Route path="daybook/print" element={<Page of={LogPage} />} />
        <Route path="machines" element={<Page of={Machines} />} />
        <Route path="machines/:machine/:step?" element={<Page of={Card} />} />
        <Route path="motors/:motor/sources" element={<Page of={SourcesPage} />} />
        <Route path="motors/:motor/sheet" element={<Page of={SheetPage} />} />
        <Route path="rulebook" element={<Page of={Rulebook} />} />
        <Route path="*" element={<Page of={Machines} />} />
      </Route>
    </Routes>
  </Passphrase>
);

keepForAway();

/** A place for notes around the page. */
function Noted({ children }: { children: ReactNode }) {
  const [notes, place] = notification.useNotification();
  return (
    <ShownNotes.Provider value={notes}>
      {place}
      {children}
    </ShownNotes.Provider>
  );
}

/** The library's components, lit as the rest of the page is. */
function Lit({ children }: { children: ReactNode }) {
  const torch = useTorch();
  const theme = useMemo(() => themeNow(torch), [torch]);
  return (
    <ConfigProvider theme={theme} csp={{ nonce }}>
      <Noted>{children}</Noted>
    </ConfigProvider>
  );
}

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <Lit>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <Routes>
            <Route path="keypad/:drive" element={<Page of={KeypadPage} />} />
            <Route path="*" element={<Shop />} />
          </Routes>
        </BrowserRouter>
      </QueryClientProvider>
    </Lit>
  </StrictMode>,
);
