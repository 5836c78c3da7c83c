/** Who this page is to the server: so that it knows its own changes when it is told of them. */
export const PAGE = `p${Math.random().toString(36).slice(2, 12)}`;
