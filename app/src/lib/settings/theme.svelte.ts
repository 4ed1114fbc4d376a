/** Light (paper) or night, kept for the next visit. */
class Theme {
  night = $state(false);

  load(): void {
    this.set(localStorage.getItem('ulvrin-theme') === 'night');
  }
  set(night: boolean): void {
    this.night = night;
    document.documentElement.setAttribute('theme', night ? 'g100' : 'g10');
    localStorage.setItem('ulvrin-theme', night ? 'night' : 'light');
  }
}

export const theme = new Theme();

/** Colours of the stand; see the design of the look. */
export const standColours = {
  light: {
    top: '#F4F2EC',
    bottom: '#E3DFD5',
    clay: '#CBD5D8',
    wire: '#22343C',
    floor: '#A9A391',
    shade: '#3A3222',
    selected: '#1D5BD6',
    hover: '#0A7E70',
    crease: '#946413',
    border: '#8E2420',
    pole: '#5E3BA3',
    triangle: '#B0305F',
    ngon: '#9A6400',
    deviation: '#A8321F',
    mask: '#2F3A40',
    region: '#A12C6E',
    lock: '#0B5C77',
    kept: '#2C6A2E',
    back: '#6B757A'
  },
  night: {
    top: '#20262B',
    bottom: '#14181B',
    clay: '#3A444A',
    wire: '#B4C4CA',
    floor: '#55626A',
    shade: '#000000',
    selected: '#5C9DFF',
    hover: '#35D0BB',
    crease: '#E6B557',
    border: '#FF8B7A',
    pole: '#E4D6FF',
    triangle: '#FF8FB4',
    ngon: '#F0B24A',
    deviation: '#FF8A5C',
    mask: '#0B0F12',
    region: '#E79AD0',
    lock: '#7FD3EE',
    kept: '#93D68A',
    back: '#7B868C'
  }
} as const;
export type StandColours = { [K in keyof (typeof standColours)['light']]: string };
