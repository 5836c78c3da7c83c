/** Asked while the server does not answer: whether it does again. Apart from the rest, which is built on the answer. */
export const HEALTH = "/api/health";
