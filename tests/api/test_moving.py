"""What is drawn while a hand moves something is what the whole analysis says of the same change."""

from __future__ import annotations

from typing import Any

from ridge.studies.content.samples import SAMPLES
from tests.api.test_api import ApiCase

LOW, HIGH = -1.0, 700.0


class Moving(ApiCase):
    def both(self, study: str, version: int, **change: Any) -> tuple[Any, Any]:
        body = {"version": version, "change": change}
        moving = self.post(f"/studies/{study}/moving", {**body, "low": LOW, "high": HIGH})
        return moving, self.post(f"/studies/{study}/preview", body)

    def agree(self, moving: Any, whole: Any, before: Any) -> None:
        self.assertEqual([fit["letter"] for fit in moving["fits"]], [fit["letter"] for fit in whole["fits"]])
        for drawn, said in zip(moving["fits"], whole["fits"], strict=True):
            self.assertEqual(drawn["residuals"], said.get("residuals", []))
            for name in ("r_squared", "typical_miss", "deviation"):
                self.assertEqual(drawn[name] or "", said.get(name) or "")
            for name in ("handles", "grips", "difference"):
                if said["kind"] == "hand":
                    self.assertEqual(drawn[name], said[name])
            self.assertAlmostEqual(drawn["curve"]["x"][0], LOW)
        if not whole["same_readings"]:
            for row in moving["rows"]:
                for name in ("x", "y", "status", "x_error", "y_error"):
                    self.assertEqual(row[name], whole[name] and whole[name][row["row"]])
            told = {row["row"] for row in moving["rows"]}
            rest = [row for row in range(len(whole["x"])) if row not in told]
            for name in ("x", "y", "status"):
                self.assertEqual([before[name][row] for row in rest], [whole[name][row] for row in rest])
        for name, answers in (
            ("answers", whole["answers"]),
            ("unknowns", [one["answer"] for one in whole["unknowns"]]),
        ):
            for drawn, said in zip(moving[name], answers, strict=True):
                self.assertEqual((drawn["mark"], drawn["short"]), (said["mark"], said["short"]))
                self.assertEqual(drawn["marks"], [row["mark"] for row in said["rows"]])

    def test_a_reading_of_every_sample(self) -> None:
        for sample in SAMPLES:
            with self.subTest(sample.name):
                study = self.post("/studies", {"sample": sample.name}, status=201)["id"]
                held = self.read(f"/studies/{study}")
                y = next(place for place, one in enumerate(held["columns"]) if one["role"] == "y" or one["formula"])
                if held["columns"][y]["formula"]:
                    continue
                value = str(1.05 * float(held["columns"][y]["cells"][2].replace(",", ".")) + 0.01)
                moving, whole = self.both(study, 0, kind="set_cells", row=2, column=y, block=[[value]])
                self.assertEqual([row["row"] for row in moving["rows"]], [2])
                self.agree(moving, whole, held["analysis"])

    def test_a_handle_and_a_grip(self) -> None:
        study = self.new()
        self.fill(study)
        found = self.change(study, 1, kind="set_fit", letter="A", by_hand=True)
        self.change(study, 2, kind="add_fit", family="polynomial", options={"degree": 2})
        values = {one["name"]: one["value"] for one in found["analysis"]["fits"][0]["handles"]}
        moving, whole = self.both(study, 3, kind="set_fit", letter="A", values={**values, "slope": 3.5})
        self.assertEqual(moving["rows"], [])
        self.agree(moving, whole, found["analysis"])
        grip = found["analysis"]["fits"][0]["grips"][0]
        moving, whole = self.both(
            study, 3, kind="move_grip", letter="A", grip=grip["name"], x=grip["x"], y=grip["y"] + 1
        )
        self.agree(moving, whole, found["analysis"])

    def test_what_only_the_whole_tells(self) -> None:
        study = self.new()
        self.fill(study)
        for change in (
            {"kind": "insert_rows", "at": 1, "count": 2},
            {"kind": "add_fit", "family": "constant"},
            {"kind": "set_fit", "letter": "A", "family": "logarithmic", "method": "y"},
            {"kind": "set_cells", "row": 0, "column": 0, "block": [["-1"], ["-2"], ["-3"], ["-4"]]},
        ):
            with self.subTest(change):
                moving, whole = self.both(study, 1, **change)
                self.assertTrue(whole["fits"])
                if moving is not None:
                    self.agree(moving, whole, self.read(f"/studies/{study}")["analysis"])
        self.change(study, 1, kind="set_fit", letter="A", family="logarithmic")
        self.assertIsNone(self.both(study, 2, kind="set_cells", row=0, column=0, block=[["-1"]])[0])

    def test_what_is_refused(self) -> None:
        study = self.new()
        body = {"version": 0, "change": {"kind": "remove_answer", "key": "k"}, "low": 0, "high": 1}
        self.post(f"/studies/{study}/moving", body, status=400)
        self.post(f"/studies/{study}/moving", {**body, "version": 7}, status=400)
        self.post(f"/studies/{study}/moving", {**body, "low": 2}, status=400)
        self.post(f"/studies/{study}/moving", {**body, "high": "wide"}, status=422)
        self.assertEqual(self.read(f"/studies/{study}")["version"], 0)
