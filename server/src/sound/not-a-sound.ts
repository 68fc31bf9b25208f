/** Why a file is not taken, in a sentence. */
export class NotASound extends Error {}
