"""What a worksheet locks cannot be had through an archive or a calculated column."""

from __future__ import annotations

import io
import zipfile

from tests.api import test_worksheets as worksheets


class Locked(worksheets.Class):
    def begin(self, what: str) -> str:
        steps = [{"text": "First", "needs": {"kind": "text"}}, {"text": "Then"}]
        wanted = {"title": "Salinity", "steps": steps, "begin": "all", "withheld": {what: 1}}
        self.sheet = self.teacher.send("PUT", self.at, wanted)
        return str(self.join(self.ann, "Ann"))

    def archive(self) -> zipfile.ZipFile:
        return zipfile.ZipFile(io.BytesIO(self.ann.get("/api/account/studies.zip").content))

    def test_the_archive_of_all_studies_names_a_locked_copy_and_leaves_it_out(self) -> None:
        study = self.begin("quality")
        with self.archive() as archive:
            self.assertEqual(archive.namelist(), ["Not included.txt"])
            self.assertIn("locked until step 1", archive.read("Not included.txt").decode())
        key = self.ann.send("GET", f"/studies/{study}/task")["steps"][0]["key"]
        self.ann.send("PUT", f"/studies/{study}/task", {"step": key, "text": "Done"})
        with self.archive() as archive:
            self.assertEqual(len(archive.namelist()), 1)
            self.assertTrue(archive.namelist()[0].endswith(".ridge.json"))

    def test_a_row_does_not_tell_how_well_the_curve_fits(self) -> None:
        study = self.begin("quality")
        for who, labels in ((self.ann, {"status", "on the line", "residual"}), (self.teacher, {"status", "on the line", "residual", "standardised", "leverage"})):  # fmt: skip
            entries = who.send("GET", f"/studies/{study}/rows/1")["entries"]
            self.assertEqual({one["label"] for one in entries}, labels)

    def test_a_column_does_not_predict_while_predictions_are_locked(self) -> None:
        study = self.begin("answers")
        version = self.ann.send("GET", f"/studies/{study}")["version"]
        for formula in ("A(600)", "2*A + 1"):
            change = {"kind": "add_column", "symbol": "p", "formula": formula}
            self.ann.send("POST", f"/studies/{study}/changes", {"version": version, "change": change}, 400)
        change = {"kind": "add_column", "symbol": "p", "formula": "row*2"}
        self.ann.send("POST", f"/studies/{study}/changes", {"version": version, "change": change})
