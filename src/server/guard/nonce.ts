/** The header by which pages learn the nonce of their own scripts. */
export const NONCE_HEADER = 'x-linstock-nonce';
