/** Edition of charts and population: raised whenever charts drawn before can no longer be used. */
export const ENGINE_EDITION = "3";
