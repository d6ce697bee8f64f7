import { createVuetify } from 'vuetify';
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg';

/** Vuetify in the colors and the measure of this application: paper, ink, one sea green, three severities. */
export const vuetify = createVuetify({
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  theme: {
    defaultTheme: 'paper',
    themes: {
      paper: {
        dark: false,
        colors: {
          background: '#f4f1ea',
          surface: '#fffdf8',
          'on-surface': '#14262b',
          'on-background': '#14262b',
          primary: '#0f5c66',
          secondary: '#46575b',
          error: '#b0322a',
          warning: '#9a5a00',
          info: '#55697a',
          success: '#23703f',
        },
      },
    },
  },
  // Weeks begin on Monday, and a day stands before its month.
  date: { locale: { en: 'en-GB' } },
  defaults: {
    global: { ripple: false },
    VBtn: { variant: 'flat', color: 'primary', rounded: 'md', size: 'small' },
    VTextField: { variant: 'outlined', density: 'compact', color: 'primary', hideDetails: 'auto' },
    VTextarea: { variant: 'outlined', density: 'compact', color: 'primary', hideDetails: 'auto' },
    VSelect: { variant: 'outlined', density: 'compact', color: 'primary', hideDetails: 'auto' },
    VDatePicker: { color: 'primary', hideHeader: true, showAdjacentMonths: true },
    VNumberInput: { variant: 'outlined', density: 'compact', color: 'primary', hideDetails: 'auto', controlVariant: 'hidden' },
    VCheckbox: { density: 'compact', color: 'primary', hideDetails: true },
    VTooltip: { location: 'bottom', openDelay: 350 },
    VDialog: { maxWidth: 480 },
    VCard: { rounded: 'lg', elevation: 2 },
  },
});
