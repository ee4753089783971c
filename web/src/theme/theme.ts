import type { ThemeConfig } from 'antd';

/** The tokens of the look, in one place; base.css reads the same ones. */
export const tokens = {
  paper: '#F5F2EA',
  card: '#FBFAF5',
  ink: '#1D2522',
  soft: '#4E5A55',
  enamel: '#21413A',
  brass: '#B0771D',
  rule: '#D9D3C3',
  lineA: '#1F5FA8',
  lineB: '#A8322A',
  lineC: '#6E3FA0',
  stop: '#B3261E',
  caution: '#855800',
  note: '#2F5D75',
} as const;

/** Strokes of the three lines: told apart by dash as well as by colour. */
export const legs = {
  a: { colour: tokens.lineA, dash: undefined },
  b: { colour: tokens.lineB, dash: '9 5' },
  c: { colour: tokens.lineC, dash: '2 4 9 4' },
  n: { colour: tokens.soft, dash: '1 4' }, // a neutral
  d: { colour: tokens.ink, dash: undefined }, // a pole of a dc bus
} as const;

export const theme: ThemeConfig = {
  token: {
    colorPrimary: tokens.enamel,
    colorInfo: tokens.note,
    colorError: tokens.stop,
    colorWarning: tokens.caution,
    colorErrorBg: '#FBEDEB',
    colorWarningBg: '#FFF8E8',
    colorWarningBorder: '#D9B45A',
    colorText: tokens.ink,
    colorTextSecondary: tokens.soft,
    colorTextDescription: tokens.soft,
    colorBgLayout: tokens.paper,
    colorBgContainer: tokens.card,
    colorTextPlaceholder: '#5A635E',
    colorBorder: '#8A8677',
    colorLink: tokens.enamel,
    fontFamily: "'Barlow', sans-serif",
    fontSize: 15,
    controlHeight: 44,
    borderRadius: 5,
    motion: false,
  },
  components: {
    Slider: {
      railSize: 8,
      handleSize: 18,
      handleSizeHover: 18,
      controlSize: 14,
      trackBg: tokens.brass,
      trackHoverBg: tokens.brass,
      railBg: tokens.rule,
      railHoverBg: tokens.rule,
      handleColor: tokens.brass,
      handleActiveColor: tokens.brass,
    },
  },
};
