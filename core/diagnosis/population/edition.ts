/** Edition of charts, predictions and advices: raised whenever those made before can no longer be used. */
export const ENGINE_EDITION = "41";
