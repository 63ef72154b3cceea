import type { Bench } from "../../core/diagnosis/planning/plan";
import { ASSUMED_PRICES } from "../../core/diagnosis/planning/prices";
import { WHEELED_IN } from "../../core/procedure/moves";
import { USUAL_TOOLS } from "../../core/procedure/tools";

/** A machine that was just wheeled in, nothing of it read yet; what is otherwise goes over it. */
export function benchOf(over: Partial<Bench> = {}): Bench {
  return {
    done: new Set(),
    tests: new Set(),
    charged: false,
    carries: false,
    rises: false,
    mended: [],
    prices: ASSUMED_PRICES,
    complaint: [],
    ohmsResolution: 0.1,
    tools: USUAL_TOOLS,
    restHours: 12,
    spent: 0,
    state: WHEELED_IN,
    ...over,
  };
}
