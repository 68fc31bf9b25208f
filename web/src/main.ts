import '@fontsource-variable/besley/wght.css';
import '@fontsource-variable/schibsted-grotesk/wght.css';
import '@fontsource-variable/spline-sans-mono/wght.css';
import 'vuetify/styles/core';
import './shell/base.css';
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import App from './shell/App.vue';
import { router } from './shell/router.ts';
import { vuetify } from './shell/theme.ts';

createApp(App).use(createPinia()).use(router).use(vuetify).mount('#app');
