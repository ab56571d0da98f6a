// The artist's generators lie in the browser, so pages are drawn there.
export const ssr = false;
