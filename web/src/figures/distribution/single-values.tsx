import { GroupName } from "./marks";
import type { PictureProps } from "./picture-props";

/** Every value by itself: across its value, down its place in the order of the rows. */
export function SingleValues({ cells, shown }: PictureProps) {
  return cells.map((cell) => {
    const { group, box, x } = cell;
    const high = box.bottom - box.top - 8;
    return (
      <g key={cell.index}>
        {shown.mean !== false && group.mean != null && (
          <path d={`M${x(group.mean)} ${box.top}V${box.bottom}`} stroke="var(--moss)" strokeWidth="1.6" />
        )}
        {group.values.map(({ place, value }) => (
          <circle
            key={place}
            cx={x(value)}
            cy={box.top + 4 + place * high}
            r={high < 40 ? 1.9 : 2.6}
            fill="var(--slate)"
            fillOpacity="0.7"
          />
        ))}
        <GroupName cell={cell} beside={cells.length > 1} />
      </g>
    );
  });
}
