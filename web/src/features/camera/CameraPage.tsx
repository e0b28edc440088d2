import { useEffect, useRef, useState } from "react";
import { ask, client } from "../../api/client";
import { t } from "../../shared/format/language";
import { useLanguage } from "../../shared/format/useLanguage";
import { Button } from "../../shared/ui/Button";
import { PairForm } from "../../shared/ui/PairForm";
import { Guide } from "./Guide";
import { useLevel } from "./level";
import { type CameraState, useFilming } from "./useFilming";

const STORAGE_KEY = "instavis-camera";
const WANTED = { facingMode: "environment", width: { ideal: 1280 }, height: { ideal: 720 }, frameRate: { ideal: 60 } };

/** A phone as a camera of a bay: it films every ball, only while the student agrees. */
export function CameraPage() {
  const [token, setToken] = useState(() => localStorage.getItem(STORAGE_KEY) ?? "");
  function keep(next: string) {
    if (next) localStorage.setItem(STORAGE_KEY, next);
    else localStorage.removeItem(STORAGE_KEY);
    setToken(next);
  }
  if (token) return <Camera token={token} onEnded={() => keep("")} />;
  return (
    <PairForm
      title={t("camera-camera-bay")}
      says={t("camera-enter-code-coachs-screen-phone")}
      button={t("camera-pair")}
      pair={(code) => ask(client.POST("/api/v1/filming", { body: { code } }))}
      onPaired={keep}
    />
  );
}

/** Return this device's camera with sound if allowed, or the reason it is not available. */
function useStream(): [MediaStream | undefined, string] {
  const [stream, setStream] = useState<MediaStream>();
  const [why, setWhy] = useState("");
  useEffect(() => {
    let mine: MediaStream | undefined;
    let gone = false;
    async function open() {
      const devices = navigator.mediaDevices;
      if (!devices) {
        setWhy(t("camera-camera-needs-secure-connection-https"));
        return;
      }
      try {
        // Without a microphone the strike is not heard, and the film says less exactly when it was.
        const sound = { echoCancellation: false, noiseSuppression: false, autoGainControl: false };
        mine = await devices
          .getUserMedia({ video: WANTED, audio: sound })
          .catch(() => devices.getUserMedia({ video: WANTED }));
        if (gone) for (const track of mine.getTracks()) track.stop();
        else setStream(mine);
      } catch {
        setWhy(t("camera-no-camera-access-allow-camera"));
      }
    }
    void open();
    return () => {
      gone = true;
      for (const track of mine?.getTracks() ?? []) track.stop();
    };
  }, []);
  return [stream, why];
}

/** Keep the phone awake. */
function useAwake() {
  useEffect(() => {
    let lock: WakeLockSentinel | undefined;
    const hold = async () => {
      if (document.visibilityState !== "visible") return;
      lock = await navigator.wakeLock?.request("screen").catch(() => undefined);
    };
    void hold();
    document.addEventListener("visibilitychange", hold);
    return () => {
      document.removeEventListener("visibilitychange", hold);
      void lock?.release();
    };
  }, []);
}

function Camera({ token, onEnded }: { token: string; onEnded: () => void }) {
  const [stream, why] = useStream();
  const { result, filming, waiting, sent, problem, line } = useFilming(token, stream, onEnded);
  const level = useLevel();
  const picture = useRef<HTMLVideoElement>(null);
  const spoken = useLanguage(result?.language || undefined);
  useAwake();
  useEffect(() => {
    if (picture.current && stream) picture.current.srcObject = stream;
  }, [stream]);
  return (
    <main className="flex min-h-screen flex-col bg-ink text-sheet">
      <div className="relative grow">
        <video ref={picture} autoPlay muted playsInline className="absolute inset-0 h-full w-full object-contain" />
        {result && <Guide view={result.view} hand={result.hand} level={level} />}
      </div>
      <footer className="flex flex-wrap items-center justify-between gap-x-8 gap-y-2 px-5 py-3">
        <div role="status">
          <h1 className="flex items-center gap-3 text-xl font-bold">
            <span className={`h-4 w-4 rounded-full ${filming ? "bg-clay" : "border-2 border-sheet"}`} aria-hidden />
            {why || (result && spoken ? message(result, filming) : t("camera-connecting-bay"))}
          </h1>
          <p>
            {result && `${t(result.view === "face-on" ? "common-front" : "common-behind-hands")}, ${result.bay}. `}
            {t("camera-films-sent-waiting", { sent, waiting })}
            {!line && ` ${t("camera-offline-films-stored-here-sent")}`}
          </p>
          {level !== undefined && (
            <p className={level ? "text-straw" : ""}>
              {level ? t("camera-tilted-turn-phone-until-both", { degrees: Math.abs(level) }) : t("camera-phone-level")}
            </p>
          )}
          {problem && <p className="text-straw">{problem}</p>}
        </div>
        <Button onClick={onEnded}>{t("camera-use-another-code")}</Button>
      </footer>
    </main>
  );
}

function message(result: CameraState, filming: boolean): string {
  if (!result.may_film) return result.why_not;
  return filming ? t("camera-films-ball-ball", { name: result.first_name }) : t("camera-start-filming");
}
