import { useRef } from "react";
import { type Point, pointName } from "../../core/machine/points";
import type { Sheet } from "../../core/machine/sheet";
import { type Layout, type Spot, spotOf } from "../loom/layout";

interface EyeletsProps {
  sheet: Sheet;
  layout: Layout;
  points: readonly Point[];
  red: Point;
  black: Point;
  /** Puts a probe on a point. */
  put: (probe: "red" | "black", point: Point) => void;
  /** The probe that a tap or Enter puts down. */
  inHand: "red" | "black";
}

/** How far from an eyelet a dropped tip still finds it, in the loom's units. */
const REACH = 60;

/** The loom's points as places where a probe can go: by tapping, by dragging a tip there, or with Tab and r or b. */
export function Eyelets({ sheet, layout, points, red, black, put, inHand }: EyeletsProps) {
  const group = useRef<SVGGElement>(null);
  const dragged = useRef<"red" | "black">(undefined);
  const placed = points.flatMap((point) => {
    const spot = spotOf(point, sheet, layout);
    return spot ? [{ point, spot }] : [];
  });
  const drop = (event: React.PointerEvent): void => {
    const probe = dragged.current;
    dragged.current = undefined;
    const matrix = group.current?.getScreenCTM();
    if (!probe || !matrix) return;
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    const distance = (spot: Spot): number => Math.hypot(spot.x - at.x, spot.y - at.y);
    const nearest = placed.reduce<(typeof placed)[number] | undefined>(
      (best, eyelet) => (!best || distance(eyelet.spot) < distance(best.spot) ? eyelet : best),
      undefined,
    );
    if (nearest && distance(nearest.spot) <= REACH) put(probe, nearest.point);
  };
  const key = (event: React.KeyboardEvent, point: Point): void => {
    const probe = event.key === "r" ? "red" : event.key === "b" ? "black" : event.key === "Enter" || event.key === " " ? inHand : undefined;
    if (!probe) return;
    event.preventDefault();
    event.stopPropagation();
    put(probe, point);
  };
  return (
    <g ref={group} onPointerUp={drop}>
      {placed.map(({ point, spot }) => {
        const holds = point === red ? "red" : point === black ? "black" : undefined;
        return (
          // biome-ignore lint/a11y/useSemanticElements: a drawing has no button element
          <g
            key={point}
            role="button"
            tabIndex={0}
            aria-label={`${pointName(point, sheet)}${holds ? `, ${holds} probe` : ""}`}
            className="cursor-pointer"
            onClick={() => put(inHand, point)}
            onKeyDown={(event) => key(event, point)}
            onPointerDown={(event) => {
              if (!holds) return;
              dragged.current = holds;
              event.currentTarget.releasePointerCapture(event.pointerId);
            }}
          >
            <circle cx={spot.x} cy={spot.y} r="15" fill="transparent" />
            {holds ? null : <circle cx={spot.x} cy={spot.y} r="4" fill="var(--copper)" />}
          </g>
        );
      })}
    </g>
  );
}
