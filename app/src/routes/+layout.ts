// everything is computed and stored in the browser
export const ssr = false;
