import type { Step } from "../../core/procedure/step";
import { type ReadingTag, Y } from "./layout";

/** Height of one tag and the step to the next, both growing with the lettering, and the room that there is for them above the parts. */
const TAG = { height: 18, step: 19, room: 60 } as const;
/** The least that stays free between a tag and the edge of where it may reach. */
const EDGE = 6;

interface TagRowProps {
  left: number;
  /** From where to where tags may reach: the zone, and those beside it that have none of their own. */
  reach: { from: number; to: number };
  tags: readonly ReadingTag[];
  lettering: number;
  stepLink?: ((step: Step) => string) | undefined;
}

/** The readings hung in one zone, in the order of the job; each leads back to its test. Where there is no room for all, those out of band stay. */
export function TagRow({ left, reach, tags, lettering, stepLink }: TagRowProps) {
  const height = TAG.height * lettering;
  const most = Math.floor(TAG.room / (TAG.step * lettering));
  const shown = new Set([...tags.slice().reverse()].sort((a, b) => Number(b.bad) - Number(a.bad)).slice(0, most));
  return (
    <g>
      {tags
        .filter((tag) => shown.has(tag))
        .map((tag, i) => {
          const y = Y.tags + i * TAG.step * lettering;
          const letters = tag.text.length * 7.5 * lettering;
          const width = Math.min(reach.to - reach.from - 2 * EDGE, letters + 24);
          const x = Math.min(left + EDGE, reach.to - EDGE - width);
          const body = (
            <>
              <path
                d={`M${x + 9} ${y}h${width - 9}v${height}h${-(width - 9)}l-9 -${height / 2}z`}
                fill="var(--sheet)"
                stroke={tag.bad ? "var(--copper)" : "var(--ink)"}
                strokeWidth={tag.bad ? 2 : 1}
              />
              <circle cx={x + 9} cy={y + height / 2} r="2" fill={tag.bad ? "var(--copper)" : "var(--ink)"} />
              <text
                x={x + 16}
                y={y + 13.5 * lettering}
                fontSize={12.5 * lettering}
                className="num"
                textLength={Math.min(width - 22, letters)}
                lengthAdjust="spacingAndGlyphs"
              >
                {tag.text}
              </text>
            </>
          );
          return (
            <g key={tag.text} className="drops">
              {stepLink ? (
                <a data-step="" href={stepLink(tag.step)} aria-label={`${tag.text}, go to the test`}>
                  {body}
                </a>
              ) : (
                body
              )}
            </g>
          );
        })}
    </g>
  );
}
