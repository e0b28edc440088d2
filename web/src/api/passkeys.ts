/** Convert passkeys between the browser's and the server's JSON. */
import { t } from "../shared/format/language";
import { ask, client, Problems, type Schemas } from "./client";

type Options = Schemas["ChallengeOut"]["options"];
type Credential = Schemas["PasskeyShown"]["credential"];

/** Return true if passkeys are possible: they need a host name and a secure page. */
export function passkeysWork(): boolean {
  const numbers = /^[\d.]+$|:/.test(location.hostname);
  return window.isSecureContext && !numbers && "parseCreationOptionsFromJSON" in (window.PublicKeyCredential ?? {});
}

/** Create a passkey in the form the server expects. */
export async function makePasskey(options: Options): Promise<Credential> {
  const asked = options.publicKey as PublicKeyCredentialCreationOptionsJSON;
  const publicKey = PublicKeyCredential.parseCreationOptionsFromJSON(asked);
  return plain(await result(navigator.credentials.create({ publicKey })));
}

/** Sign in with a passkey, or confirm it's you. */
export async function showPasskey() {
  const { options } = await ask(client.POST("/api/v1/session/passkey-challenge"));
  const asked = options.publicKey as PublicKeyCredentialRequestOptionsJSON;
  const publicKey = PublicKeyCredential.parseRequestOptionsFromJSON(asked);
  const credential = plain(await result(navigator.credentials.get({ publicKey })));
  return ask(client.POST("/api/v1/session/passkey", { body: { credential } }));
}

function plain(credential: Credential_): Credential {
  return (credential as PublicKeyCredential).toJSON() as unknown as Credential;
}

type Credential_ = globalThis.Credential | null;

/** The browser reports only that it failed: canceled, timed out, or already registered. */
async function result(asking: Promise<Credential_>): Promise<Credential_> {
  try {
    return await asking;
  } catch (error) {
    const there = error instanceof DOMException && error.name === "InvalidStateError";
    const message = there ? t("This device has a passkey for you already.") : t("No passkey was given.");
    throw new Problems(0, [{ field: "passkey", message }]);
  }
}
