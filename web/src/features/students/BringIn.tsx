import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type Schemas, upload } from "../../api/client";
import { t } from "../../shared/format/language";
import { Button } from "../../shared/ui/Button";
import { FilePicker } from "../../shared/ui/FilePicker";
import { Notice } from "../../shared/ui/Notice";
import { Sheet } from "../../shared/ui/Sheet";

/** Import lessons from an archive: all, or none with the reason. */
export function BringIn() {
  const cache = useQueryClient();
  const send = useMutation({
    mutationFn: (file: File) => upload<Schemas["BroughtOut"]>("/api/v1/archives", file),
    onSuccess: () =>
      Promise.all([
        cache.invalidateQueries({ queryKey: ["students"] }),
        cache.invalidateQueries({ queryKey: ["lessons"] }),
      ]),
  });
  const count = send.data?.lesson_ids.length ?? 0;
  return (
    <>
      <FilePicker
        label={t("students-archive-file")}
        accept=".zip,.json"
        pending={send.isPending}
        onFile={(file) => send.mutate(file)}
      >
        {send.isPending ? t("common-importing") : t("students-import-archive")}
      </FilePicker>
      <Sheet title={t("students-archive")} open={send.isError || send.isSuccess} onClose={() => send.reset()}>
        {send.isError ? (
          <Notice error={send.error} />
        ) : (
          <p role="status">{t("students-lessons-imported", { n: count })}</p>
        )}
        {send.isError && <p className="mt-2 text-soft">{t("common-nothing-imported")}</p>}
        <Button className="mt-4" onClick={() => send.reset()}>
          {t("common-close")}
        </Button>
      </Sheet>
    </>
  );
}
