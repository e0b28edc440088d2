/** Passkeys between the browser and the server, both of which speak of them in JSON. */
import { t } from "../shared/format/language";
import { ask, client, Problems, type Schemas } from "./client";

type Options = Schemas["ChallengeOut"]["options"];
type Credential = Schemas["PasskeyShown"]["credential"];

/** Browsers keep passkeys for names, not for addresses of numbers, and for pages whose line is safe. */
export function passkeysWork(): boolean {
  const numbers = /^[\d.]+$|:/.test(location.hostname);
  return window.isSecureContext && !numbers && "parseCreationOptionsFromJSON" in (window.PublicKeyCredential ?? {});
}

/** A new passkey of whoever sits here, as the server wants it. */
export async function makePasskey(options: Options): Promise<Credential> {
  const asked = options.publicKey as PublicKeyCredentialCreationOptionsJSON;
  const publicKey = PublicKeyCredential.parseCreationOptionsFromJSON(asked);
  return plain(await told(navigator.credentials.create({ publicKey })));
}

/** Come in by a passkey, or show by it that it is still you. */
export async function showPasskey() {
  const { options } = await ask(client.POST("/api/v1/session/passkey-challenge"));
  const asked = options.publicKey as PublicKeyCredentialRequestOptionsJSON;
  const publicKey = PublicKeyCredential.parseRequestOptionsFromJSON(asked);
  const credential = plain(await told(navigator.credentials.get({ publicKey })));
  return ask(client.POST("/api/v1/session/passkey", { body: { credential } }));
}

function plain(credential: Credential_): Credential {
  return (credential as PublicKeyCredential).toJSON() as unknown as Credential;
}

type Credential_ = globalThis.Credential | null;

/** The browser says only that it was not done: called off, too slow, or there already. */
async function told(asking: Promise<Credential_>): Promise<Credential_> {
  try {
    return await asking;
  } catch (error) {
    const there = error instanceof DOMException && error.name === "InvalidStateError";
    const message = there ? t("This device has a passkey for you already.") : t("No passkey was given.");
    throw new Problems(0, [{ field: "passkey", message }]);
  }
}
