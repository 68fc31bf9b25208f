import { createVuetify, type ThemeDefinition } from 'vuetify';
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg';

const variables = { 'border-opacity': 1, 'high-emphasis-opacity': 1, 'medium-emphasis-opacity': 1 };

const day: ThemeDefinition = {
  dark: false,
  colors: {
    background: '#F3F6EE',
    surface: '#FBFCF8',
    primary: '#8A5E17',
    'on-primary': '#FFFFFF',
    error: '#A3361B',
    success: '#0B6360',
    info: '#6D3A7A',
    warning: '#7F5511',
    'on-background': '#17232B',
    'on-surface': '#17232B',
    board: '#E3EADF',
    sel: '#E4EDDD',
    wash: '#EFE4EE',
    rule: '#D3DCCF',
    rule2: '#6F7F73',
    margin: '#B8644C',
    ink2: '#47575C',
    brass: '#7F5511',
    teal: '#0B6360',
    oxide: '#A3361B',
    plum: '#6D3A7A',
    'rope-d': '#6E5A33',
    'rope-l': '#CDB684',
    'wi-d': '#6D3A7A',
    'wi-l': '#D6B6DD',
    'sal-a': '#0B6360',
    'sal-b': '#F7F3E3',
    bar: '#1B2A33',
    'bar-rule': '#80929B',
  },
  variables: { 'border-color': '#6F7F73', ...variables },
};

const night: ThemeDefinition = {
  dark: true,
  colors: {
    background: '#121B22',
    surface: '#1A252D',
    primary: '#E3B85F',
    'on-primary': '#14110A',
    error: '#F29076',
    success: '#63C8BB',
    info: '#D2A6DF',
    warning: '#E3B85F',
    'on-background': '#ECE7D8',
    'on-surface': '#ECE7D8',
    board: '#0C1318',
    sel: '#22313A',
    wash: '#2C2433',
    rule: '#2A3842',
    rule2: '#6A7D88',
    margin: '#A05A45',
    ink2: '#A9B3AE',
    brass: '#E3B85F',
    teal: '#63C8BB',
    oxide: '#F29076',
    plum: '#D2A6DF',
    'rope-d': '#B08F4C',
    'rope-l': '#5A4725',
    'wi-d': '#D2A6DF',
    'wi-l': '#5E4069',
    'sal-a': '#63C8BB',
    'sal-b': '#12343A',
    bar: '#22313A',
    'bar-rule': '#80929B',
  },
  variables: { 'border-color': '#6A7D88', ...variables },
};

const stored = localStorage.getItem('night-bell-theme');
const prefersNight = matchMedia('(prefers-color-scheme: dark)').matches;

const field = { variant: 'underlined', density: 'compact', hideDetails: true, singleLine: true } as const;

/** Under which the server lets in the style sheet that the theme makes; the development server asks for none. */
const nonce = document.querySelector<HTMLMetaElement>('meta[name=style-nonce]')?.content ?? '';

export const vuetify = createVuetify({
  theme: {
    defaultTheme: stored ?? (prefersNight ? 'night' : 'day'),
    themes: { day, night },
    ...(nonce === '' ? {} : { cspNonce: nonce }),
  },
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  defaults: {
    global: { ripple: false },
    VBtn: { variant: 'outlined', rounded: '2px', elevation: 0 },
    VTextField: field,
    VTextarea: { ...field, variant: 'outlined' },
    VSelect: { ...field, menuProps: { contentClass: 'edged' } },
    VAutocomplete: { ...field, menuProps: { contentClass: 'edged' } },
    VMenu: { contentClass: 'edged' },
    VDialog: { contentClass: 'edged' },
    VDataTableVirtual: { density: 'compact', hideDefaultFooter: true },
    VCheckbox: { density: 'compact', hideDetails: true },
  },
});
