import { useEffect, useRef, useState } from "react";
import { t } from "../../shared/format/language";

import { Button } from "../../shared/ui/Button";
import { FilePicker } from "../../shared/ui/FilePicker";

/** Take a picture from a file, or one frame of a video; the video never leaves the browser. */
export function PictureIn({
  label,
  pending,
  onPicture,
}: {
  label: string;
  pending: boolean;
  onPicture: (file: File) => void;
}) {
  const film = useRef<HTMLVideoElement>(null);
  const [source, setSource] = useState<string | null>(null);
  useEffect(() => () => void (source && URL.revokeObjectURL(source)), [source]);

  function taken(file: File) {
    if (file.type.startsWith("video/")) setSource(URL.createObjectURL(file));
    else onPicture(file);
  }
  function take() {
    const video = film.current;
    if (!video) return;
    const canvas = document.createElement("canvas");
    canvas.width = video.videoWidth;
    canvas.height = video.videoHeight;
    canvas.getContext("2d")?.drawImage(video, 0, 0);
    canvas.toBlob((blob) => blob && onPicture(new File([blob], "frame.png", { type: "image/png" })), "image/png");
    setSource(null);
  }
  function step(by: number) {
    if (film.current) film.current.currentTime += by;
  }
  return (
    <div className="flex flex-col gap-3">
      {source ? (
        <>
          <video ref={film} src={source} controls muted playsInline className="max-h-[60vh] w-full bg-ink" />
          <div className="flex flex-wrap gap-2">
            <Button onClick={() => step(-1 / 60)}>{t("common-previous-frame")}</Button>
            <Button onClick={() => step(1 / 60)}>{t("common-next-frame")}</Button>
            <Button strong onClick={take}>
              {t("check-use-frame")}
            </Button>
            <Button onClick={() => setSource(null)}>{t("check-choose-another-file")}</Button>
          </div>
        </>
      ) : (
        <FilePicker
          label={label}
          accept="image/png,image/jpeg,image/webp,video/*"
          pending={pending}
          strong
          onFile={taken}
        >
          {pending ? t("common-importing") : label}
        </FilePicker>
      )}
    </div>
  );
}
