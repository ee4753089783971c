import {
  ApartmentOutlined,
  BookOutlined,
  DashboardOutlined,
  InboxOutlined,
  ReadOutlined,
  ToolOutlined,
} from '@ant-design/icons';
import { Alert, Button } from 'antd';
import { lazy } from 'react';
import { NavLink, Outlet, useLocation } from 'react-router';
import { useEvents } from '../api/events';
import { Later } from '../parts/Later';
import { useReading } from '../theme/reading';
import { useSaving } from './saving';
import { Away, Sending } from './Sending';

// What may come a moment after the page itself.
const DisplayMenu = lazy(() => import('./DisplayMenu').then(m => ({ default: m.DisplayMenu })));
const Find = lazy(() => import('./Find').then(m => ({ default: m.Find })));
const HelpMenu = lazy(() => import('./HelpMenu').then(m => ({ default: m.HelpMenu })));
const ShopMenu = lazy(() => import('./ShopMenu').then(m => ({ default: m.ShopMenu })));
const Who = lazy(() => import('./Who').then(m => ({ default: m.Who })));

/** The spine, the top bar and the work area. */
export function Frame() {
  const trouble = useEvents();
  const { pathname } = useLocation();
  const { mark = '', beside = '' } = useReading();
  return (
    <div className="frame">
      <nav className="spine" aria-label="Places">
        <img className="mark" src="/icon.svg" alt="" />
        <NavLink
          to="/"
          end
          className={({ isActive }) => (isActive || /^\/(day$|converters)/.test(pathname) ? 'active' : '')}
        >
          <ApartmentOutlined aria-hidden="true" />
          Floor
        </NavLink>
        <NavLink
          to="/machines"
          className={({ isActive }) => (isActive || pathname.startsWith('/motors') ? 'active' : '')}
        >
          <ToolOutlined aria-hidden="true" />
          Machines
        </NavLink>
        <NavLink to="/stores">
          <InboxOutlined aria-hidden="true" />
          Stores
        </NavLink>
        <NavLink to="/bench">
          <DashboardOutlined aria-hidden="true" />
          Bench
        </NavLink>
        <NavLink to="/daybook">
          <BookOutlined aria-hidden="true" />
          Daybook
        </NavLink>
        <NavLink to="/rulebook">
          <ReadOutlined aria-hidden="true" />
          Rulebook
        </NavLink>
      </nav>
      <header className="topbar">
        <Later quiet>
          <ShopMenu />
        </Later>
        <span className="gap" />
        <Later quiet>
          <Find />
        </Later>
        <Saved />
        <Sending />
        <Later quiet>
          <HelpMenu />
          <DisplayMenu />
          <Who />
        </Later>
      </header>
      <main className="work" key={`${mark} ${beside}`}>
        {trouble && <Alert type="error" showIcon banner role="alert" title={trouble} />}
        <Away />
        <Outlet />
      </main>
    </div>
  );
}

/** What is said of the last change, apart from the rest: it is said at every move of a hand. */
function Saved() {
  const { text, bad, undo } = useSaving();
  return (
    <>
      <span className={bad ? 'saved bad' : 'saved'} role="status">
        {text}
      </span>
      {undo && (
        <Button type="text" onClick={undo}>
          Undo
        </Button>
      )}
    </>
  );
}
