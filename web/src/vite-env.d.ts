/// <reference types="vite-plugin-pwa/client" />

/** What the answers of the server look like, as a short text. */
declare const __LODELINE_VERSION__: string;
