import type { PlacedPicture } from "../../api/types";
import type { Place } from "../sheet";
import { matrixOf, outlineOf } from "./placing";

type Props = {
  pictures: readonly PlacedPicture[];
  /** Where a file is to be had; null where it is not at hand. */
  pictureOf: (file: string) => string | null;
  layersOn: readonly boolean[];
  place: Place;
};

/** Pictures that lie on a sheet and are files of their own, beneath its lines. */
export function PlacedPictures({ pictures, pictureOf, layersOn, place }: Props) {
  return pictures.map((picture, i) => {
    const url = pictureOf(picture.file);
    if (!url || layersOn[picture.layer] === false) return null;
    const { width, height, matrix } = matrixOf(picture, place);
    if (!(width > 0) || !(height > 0)) return null;
    const window = picture.window;
    const corner = window && place({ x: window.minX, y: window.maxY });
    const far = window && place({ x: window.maxX, y: window.minY });
    const shown = (
      <img
        src={url}
        alt={picture.file}
        draggable={false}
        data-testid="placed picture"
        className="absolute top-0 left-0 max-w-none origin-top-left"
        style={{
          width,
          height,
          transform: `matrix(${matrix.join(",")})`,
          clipPath: outlineOf(picture),
        }}
      />
    );
    if (!corner || !far) return <span key={i}>{shown}</span>;
    return (
      <span
        key={i}
        className="absolute top-0 left-0 overflow-hidden"
        style={{
          width: Math.max(0, far.x - corner.x),
          height: Math.max(0, far.y - corner.y),
          transform: `translate(${corner.x}px, ${corner.y}px)`,
        }}
      >
        <span className="absolute top-0 left-0" style={{ transform: `translate(${-corner.x}px, ${-corner.y}px)` }}>
          {shown}
        </span>
      </span>
    );
  });
}
