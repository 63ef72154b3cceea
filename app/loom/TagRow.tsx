import type { Step } from "../../core/procedure/step";
import { type ReadingTag, Y, ZONE_WIDTH, type Zone } from "./layout";

/** Height of one tag and the step to the next. */
const TAG = { height: 18, step: 20, most: 3 } as const;

interface TagRowProps {
  left: number;
  zone: Zone;
  tags: readonly ReadingTag[];
  lettering: number;
  stepLink?: ((step: Step) => string) | undefined;
}

/** The readings hung in one zone, newest tests below; each leads back to its test. */
export function TagRow({ left, zone, tags, lettering, stepLink }: TagRowProps) {
  const shown = tags.slice(-TAG.most);
  return (
    <g>
      {shown.map((tag, i) => {
        const y = Y.tags + i * TAG.step;
        const width = Math.min(ZONE_WIDTH[zone] - 10, tag.text.length * 7.5 * lettering + 24);
        const x = left + 6;
        const letters = tag.text.length * 7.5 * lettering;
        const body = (
          <>
            <path
              d={`M${x + 9} ${y}h${width - 9}v${TAG.height}h${-(width - 9)}l-9 -${TAG.height / 2}z`}
              fill="var(--sheet)"
              stroke={tag.bad ? "var(--copper)" : "var(--ink)"}
              strokeWidth={tag.bad ? 2 : 1}
            />
            <circle cx={x + 9} cy={y + TAG.height / 2} r="2" fill={tag.bad ? "var(--copper)" : "var(--ink)"} />
            <text
              x={x + 16}
              y={y + 13.5}
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
