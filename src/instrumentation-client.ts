import { tellLocaleBy } from './core/wording/locale';

// before anything is drawn: as the server wrote numbers and dates, so does the browser
tellLocaleBy(() => document.documentElement.dataset.locale);
