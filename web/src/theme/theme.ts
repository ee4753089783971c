import { theme as antd, type ThemeConfig } from 'antd';

/** The colours of the look for pictures; base.css has what they are by day and by torch. */
export const tokens = {
  paper: 'var(--paper)',
  card: 'var(--card)',
  clear: 'var(--clear)',
  sunk: 'var(--sunk)',
  trough: 'var(--trough)',
  ink: 'var(--ink)',
  soft: 'var(--soft)',
  enamel: 'var(--enamel)',
  brass: 'var(--brass)',
  rule: 'var(--rule)',
  edge: 'var(--edge)',
  lineA: 'var(--line-a)',
  lineB: 'var(--line-b)',
  lineC: 'var(--line-c)',
  stop: 'var(--stop)',
  caution: 'var(--caution)',
  note: 'var(--note)',
  good: 'var(--good)',
  linkBar: 'var(--link-bar)',
  cautionGround: 'var(--caution-ground)',
} as const;

/** Strokes of the three lines: told apart by dash as well as by colour. */
export const legs = {
  a: { colour: tokens.lineA, dash: undefined },
  b: { colour: tokens.lineB, dash: '9 5' },
  c: { colour: tokens.lineC, dash: '2 4 9 4' },
  n: { colour: tokens.soft, dash: '1 4' }, // a neutral
  d: { colour: tokens.ink, dash: undefined }, // a pole of a dc bus
} as const;

const known = new Map<string, string>();

/**
 * A colour of the look as it is now, for what cannot follow by itself: a canvas, and the library's reckoning. It is
 * asked for once on each ground, since asking makes the browser style the whole page first.
 */
export function asItIs(colour: string): string {
  const { documentElement: page } = document;
  const key = `${page.dataset.ground} ${colour}`;
  let value = known.get(key);
  if (value === undefined) {
    const name = colour.replace(/^var\((.*)\)$/, '$1');
    known.set(key, (value = getComputedStyle(page).getPropertyValue(name).trim()));
  }
  return value;
}

/** The theme of the component library, in the colours of the look as they are now. */
export function themeNow(dark: boolean): ThemeConfig {
  const now = (name: string) => asItIs(`--${name}`);
  return {
    algorithm: dark ? antd.darkAlgorithm : antd.defaultAlgorithm,
    token: {
      colorPrimary: now('fill'),
      colorPrimaryHover: now('fill-deep'),
      colorPrimaryActive: now('fill-deep'),
      colorPrimaryText: now('enamel'),
      colorInfo: now('note'),
      colorError: now('stop'),
      colorWarning: now('caution'),
      colorErrorBg: now('stop-ground'),
      colorWarningBg: now('caution-ground'),
      colorWarningBorder: now('brass'),
      colorText: now('ink'),
      colorTextSecondary: now('soft'),
      colorTextDescription: now('soft'),
      colorBgLayout: now('paper'),
      colorBgContainer: now('card'),
      colorBgElevated: now('card'),
      colorTextPlaceholder: now('placeholder'),
      colorBorder: now('edge'),
      colorLink: now('enamel'),
      fontFamily: "'Barlow', sans-serif",
      fontSize: 15,
      controlHeight: 44,
      borderRadius: 5,
      motion: false,
    },
    components: {
      Button: {
        defaultHoverColor: now('ink'),
        defaultActiveColor: now('ink'),
        defaultHoverBorderColor: now('ink'),
        defaultActiveBorderColor: now('ink'),
      },
      Tabs: { itemSelectedColor: now('enamel'), itemHoverColor: now('enamel'), inkBarColor: now('enamel') },
      Slider: {
        railSize: 8,
        handleSize: 18,
        handleSizeHover: 18,
        controlSize: 14,
        trackBg: now('brass'),
        trackHoverBg: now('brass'),
        railBg: now('rule'),
        railHoverBg: now('rule'),
        handleColor: now('brass'),
        handleActiveColor: now('brass'),
      },
    },
  };
}
