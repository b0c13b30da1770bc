"""The course's settings of a worksheet: what they settle in every copy, what is refused, and what follows when they are mended."""

from __future__ import annotations

from typing import Any

from ridge.core.catalogue import ENTRIES
from ridge.studies.models import Study
from tests.api.test_worksheets import Class, Person


class Settled(Class):
    def settle(
        self, letters: dict[str, str] | None = None, rising: bool = False, level: float = 0.95, **settled: Any
    ) -> Any:
        course = {"letters": letters or {}, "rising": rising, "level": level, "settled": settled}
        wanted = {"title": "Salinity", "steps": [{"text": "Look"}], "begin": "all", "course": course}
        self.sheet = self.teacher.send("PUT", self.at, wanted)
        return self.sheet

    def refused(self, who: Person, study: str, change: dict[str, Any]) -> str:
        version = who.send("GET", f"/studies/{study}")["version"]
        body = {"version": version, "change": change}
        said = who.send("POST", f"/studies/{study}/changes", body, 400)["message"]
        self.assertEqual(who.send("POST", f"/studies/{study}/preview", body, 400)["message"], said)
        return str(said)

    def fits(self, who: Person, study: str) -> Any:
        return who.send("GET", f"/studies/{study}")["analysis"]["fits"]

    def test_what_the_study_has_is_what_the_worksheet_begins_with(self) -> None:
        study = self.teacher.send("POST", "/studies", {"sample": "salinity-probe"}, 201)["id"]
        self.change(
            self.teacher, study, {"kind": "edit_study", "letters": {"slope": "g"}, "level": 0.9, "rising": True}
        )
        course = self.teacher.send("POST", f"/studies/{study}/worksheet_of_it", status=201)["course"]
        self.assertEqual((course["letters"], course["rising"], course["level"]), ({"slope": "g"}, True, 0.9))
        self.assertEqual(course["settled"]["models"], [])

    def test_letters_order_and_level(self) -> None:
        self.settle({"slope": "g", "intercept": "h"}, rising=True, level=0.9)
        study = self.join(self.ann, "Ann")
        found = self.ann.send("GET", f"/studies/{study}")
        self.assertEqual((found["level"], found["rising"]), (0.9, True))
        self.assertEqual([one["symbol"] for one in found["analysis"]["fits"][0]["parameters"]], ["g", "h"])
        self.assertIn("level", self.refused(self.ann, study, {"kind": "edit_study", "level": 0.99}))
        self.assertIn("letters", self.refused(self.ann, study, {"kind": "edit_study", "letters": {}}))
        self.assertIn("order", self.refused(self.ann, study, {"kind": "edit_study", "rising": False}))
        self.change(self.ann, study, {"kind": "edit_study", "title": "Mine", "level": 0.9})

    def test_one_letter_for_two_parameters_of_a_model_is_refused(self) -> None:
        course = {"letters": {"slope": "g", "intercept": "g"}}
        wanted = {"title": "Salinity", "steps": [{"text": "Look"}], "course": course}
        said = self.teacher.send("PUT", self.at, wanted, 422)["message"]
        self.assertEqual(said, "g already stands for another parameter beside slope.")
        self.settle({"slope": "g", "amplitude": "g"})

    def test_models_on_offer(self) -> None:
        self.settle(models=["line", "quadratic", "sinusoid"])
        study = self.join(self.ann, "Ann")
        self.assertEqual(
            self.ann.send("GET", f"/studies/{study}")["course"]["models"], ["line", "quadratic", "sinusoid"]
        )
        said = "Your course has these models: line, quadratic, sinusoid."
        for change in (
            {"kind": "add_fit", "family": "polynomial", "options": {"degree": 3}},
            {"kind": "add_fit", "family": "formula", "options": {"text": "a*x"}},
            {"kind": "set_fit", "letter": "A", "family": "interpolation"},
        ):
            self.assertEqual(self.refused(self.ann, study, change), said, change)
        self.change(self.ann, study, {"kind": "add_fit", "family": "polynomial", "options": {"degree": 2}})
        self.assertEqual(
            self.refused(self.ann, study, {"kind": "set_fit", "letter": "B", "options": {"degree": 6}}), said
        )
        order = self.ann.send("GET", f"/studies/{study}/ranking")["order"]
        self.assertEqual(sorted(order), ["line", "quadratic", "sinusoid"])
        self.assertEqual(
            len(self.teacher.send("GET", f"/studies/{study}/ranking")["order"]), 3, "whoever looks sees the same"
        )

    def test_nothing_is_proposed_that_would_be_refused(self) -> None:
        """Every press that the page offers is taken, with any one model on offer."""
        for key in ("line", "cubic", "polynomial", "exponential", "sinusoid", "formula"):
            self.settle(models=[key])
            who = Person()
            study = self.join(who, f"With {key}")
            entry = ENTRIES[key]
            options = {"text": "a*x"} if key == "formula" else entry.options
            self.change(who, study, {"kind": "set_fit", "letter": "A", "family": entry.family, "options": options})
            version = who.send("GET", f"/studies/{study}")["version"]
            for fit in self.fits(who, study):
                presses = [*fit.get("actions", ()), *(one for c in fit.get("cautions", ()) for one in c["actions"])]
                better = who.send("GET", f"/studies/{study}/better/{fit['letter']}")
                for press in [*presses, *([better] if better else [])]:
                    body = {"version": version, "change": press["change"]}
                    who.send("POST", f"/studies/{study}/preview", body)

    def test_angles(self) -> None:
        for degrees, unit in ((True, "°"), (False, "rad")):
            self.settle(degrees=degrees)
            who = Person()
            study = self.join(who, f"Counts {unit}")
            self.change(who, study, {"kind": "add_fit", "family": "sinusoid"})
            self.assertEqual(self.fits(who, study)[1]["options"]["degrees"], degrees)
            self.change(who, study, {"kind": "add_fit", "family": "formula", "options": {"text": "a*sin(b*x)"}})
            self.assertEqual(self.fits(who, study)[2]["options"]["degrees"], degrees)
            self.change(who, study, {"kind": "set_fit", "letter": "A", "family": "sinusoid"})
            self.assertEqual(self.fits(who, study)[0]["options"]["degrees"], degrees)
            words = {True: "degrees", False: "radians"}[degrees]
            for change in (
                {"kind": "set_fit", "letter": "B", "options": {"degrees": not degrees}},
                {"kind": "add_fit", "family": "sinusoid", "options": {"degrees": not degrees}},
            ):
                self.assertEqual(self.refused(who, study, change), f"Your course counts angles in {words}.")

    def test_a_copy_begins_with_the_angles_of_the_course(self) -> None:
        study = self.teacher.send("POST", "/studies", {"sample": "tide"}, 201)["id"]
        letter = next(fit["letter"] for fit in self.fits(self.teacher, study) if fit["family"] == "sinusoid")
        self.change(self.teacher, study, {"kind": "set_fit", "letter": letter, "fixed": {"phase": 1.0}})
        self.sheet = self.teacher.send("POST", f"/studies/{study}/worksheet_of_it", status=201)
        self.at = f"/worksheets/{self.sheet['id']}"
        self.settle(degrees=True)
        copy = self.join(self.ann, "Ann")
        fit = next(fit for fit in self.fits(self.ann, copy) if fit["letter"] == letter)
        self.assertTrue(fit["options"]["degrees"])
        self.assertEqual(fit["fixed"], {}, "a phase of 1 rad is not one of 1 degree")
        # Mended to radians: what the student has stays, and can be worked on.
        self.settle(degrees=False)
        self.change(self.ann, copy, {"kind": "set_fit", "letter": letter, "name": "mine"})
        self.assertTrue(next(f for f in self.fits(self.ann, copy) if f["letter"] == letter)["options"]["degrees"])
        self.change(self.ann, copy, {"kind": "set_fit", "letter": letter, "options": {"degrees": False}})
        self.assertIn(
            "radians", self.refused(self.ann, copy, {"kind": "set_fit", "letter": letter, "options": {"degrees": True}})
        )

    def test_decimals(self) -> None:
        self.settle(decimals=2)
        study = self.join(self.ann, "Ann")
        fit = self.fits(self.ann, study)[0]
        self.assertEqual({one["shown"] for one in fit["decimals"]}, {2})
        self.assertRegex(fit["equation_text"], r"\d\.\d\d·S . \d+\.\d\d$")
        self.settle(decimals=0)
        self.assertNotEqual(self.fits(self.ann, study)[0]["rounding_cost"], "", "and what that costs is said")
        self.assertIn(
            "decimals", self.refused(self.ann, study, {"kind": "set_fit", "letter": "A", "decimals": {"slope": 7}})
        )

    def test_spans_of_handles(self) -> None:
        self.settle(spans=[{"form": "line", "parameter": "slope", "low": 0, "high": 40, "step": 0.5}])
        study = self.join(self.ann, "Ann")
        self.change(self.ann, study, {"kind": "set_fit", "letter": "A", "by_hand": True})
        slope, intercept = self.fits(self.ann, study)[0]["handles"]
        self.assertEqual([slope[name] for name in ("low", "high", "step", "of_course")], [0, 40, 0.5, True])
        self.assertFalse(intercept["of_course"])
        version = self.ann.send("GET", f"/studies/{study}")["version"]
        turned = {"kind": "set_fit", "letter": "A", "values": {"slope": 9.5, "intercept": 3.0}}
        moving = self.ann.send(
            "POST", f"/studies/{study}/moving", {"version": version, "change": turned, "low": 0, "high": 30}
        )
        handle = moving["fits"][0]["handles"][0]
        self.assertEqual([handle[name] for name in ("low", "high", "step", "value")], [0, 40, 0.5, 9.5])
        # A grip on the plot or a number in the request goes no further than the handle.
        self.change(self.ann, study, turned | {"values": {"slope": 99.0, "intercept": -99.0}})
        self.assertEqual([one["value"] for one in self.fits(self.ann, study)[0]["handles"]], [40, -99])

    def test_least_readings(self) -> None:
        self.settle(least_readings=400)
        study = self.join(self.ann, "Ann")
        used = sum(one == 1 for one in self.ann.send("GET", f"/studies/{study}")["analysis"]["status"])
        said = f"Your course asks for 400 readings at least: {used} are in use."
        self.assertEqual(self.task(self.ann, study)["lacking"], said)
        self.assertEqual(self.ann.send("POST", f"/studies/{study}/task/hand_in", status=400)["message"], said)
        self.settle(least_readings=used)
        self.assertEqual(self.task(self.ann, study)["lacking"], "")
        self.assertEqual(self.ann.send("POST", f"/studies/{study}/task/hand_in")["number"], 1)

    def test_mended_settings_reach_the_copies_and_touch_no_work(self) -> None:
        study = self.join(self.ann, "Ann")
        self.change(self.ann, study, {"kind": "add_fit", "family": "polynomial", "options": {"degree": 3}})
        before = self.ann.send("GET", f"/studies/{study}")
        self.settle({"slope": "g"}, level=0.9, models=["line"], decimals=3)
        newer = self.ann.send("GET", f"/studies/{study}/newer?version={before['version']}")
        self.assertEqual((newer["level"], newer["letters"]), (0.9, {"slope": "g"}))
        self.assertEqual(
            [fit["form"] for fit in newer["analysis"]["fits"]], ["line", "cubic"], "what is there may stay"
        )
        self.assertEqual(newer["undo"], before["undo"])
        self.change(self.ann, study, {"kind": "set_fit", "letter": "B", "name": "mine"})
        undone = self.ann.send("POST", f"/studies/{study}/undo", {"version": newer["version"] + 1})
        self.assertEqual(undone["level"], 0.9)
        self.settle({"slope": "g"}, level=0.9, models=["line"], decimals=3)
        self.assertEqual(Study.objects.get(pk=study).version, undone["version"], "nothing new, no newer version")

    def test_a_deleted_worksheet_lets_its_copies_go(self) -> None:
        self.settle(models=["line"], level=0.9)
        study = self.join(self.ann, "Ann")
        self.teacher.send("DELETE", self.at, status=204)
        self.assertIsNone(self.ann.send("GET", f"/studies/{study}")["course"])
        self.change(self.ann, study, {"kind": "edit_study", "level": 0.99})

    def test_a_copy_of_ones_own_is_settled_by_nobody(self) -> None:
        self.settle(models=["line"])
        study = self.join(self.ann, "Ann")
        own = self.ann.send("POST", f"/studies/{study}/duplicate", {}, 201)["id"]
        self.assertIsNone(self.ann.send("GET", f"/studies/{own}")["course"])
        self.change(self.ann, own, {"kind": "add_fit", "family": "constant"})

    def test_settings_that_make_no_sense(self) -> None:
        for settled in (
            {"models": ["banana"]}, {"decimals": 99}, {"least_readings": -1}, {"unknown": 1},
            {"spans": [{"form": "line", "parameter": "slope", "low": 0, "high": 1, "step": 0}]},
            {"spans": [{"form": "line", "parameter": "slope", "low": 1, "high": 1, "step": 1}]},
            {"spans": [{"form": "line", "parameter": "amplitude", "low": 0, "high": 1, "step": 1}]},
            {"spans": [{"form": "line", "parameter": "slope", "low": 0, "high": 1e300, "step": 1e-300}]},
        ):  # fmt: skip
            wanted = {"title": "S", "steps": [], "course": {"settled": settled}}
            self.teacher.send("PUT", self.at, wanted, 422)

    def test_what_is_no_letter_is_told_without_patterns(self) -> None:
        study = self.teacher.send("POST", "/studies", {"sample": "salinity-probe"}, 201)["id"]
        change = {"kind": "edit_study", "letters": {"slope": "1"}}
        told = self.teacher.send("POST", f"/studies/{study}/changes", {"version": 0, "change": change}, 422)
        self.assertEqual(told["message"], "slope: this cannot stand here as it is written.")

    def test_an_ordinary_study_is_free(self) -> None:
        study = self.teacher.send("POST", "/studies", {"sample": "salinity-probe"}, 201)["id"]
        self.change(self.teacher, study, {"kind": "edit_study", "level": 0.99, "letters": {"slope": "k"}})


class LinkAndTrial(Class):
    def test_the_link_joins_as_the_code_does(self) -> None:
        link = self.sheet["link"]
        self.assertGreaterEqual(len(link), 22, "128 random bits at least")
        self.assertEqual(self.ben.send("GET", f"/join/{link}")["title"], self.sheet["title"])
        study = self.ann.send("POST", "/join", {"code": link, "student": "Ann"}, 201)["study"]
        self.assertEqual(self.join(self.ann, "Ann"), study)
        self.assertEqual(self.ben.get(f"/api/join/{link.swapcase()}").status_code, 404)
        other = self.teacher.send("POST", "/shipped_worksheets/degree", status=201)
        self.assertNotEqual(other["link"], link)

    def test_a_teacher_who_tries_it_is_not_of_the_class(self) -> None:
        self.mend({"text": "Look"}, closed=True)
        study = self.teacher.send("POST", f"{self.at}/trial", status=201)["study"]
        self.assertEqual(self.task(self.teacher, study)["student"], "Your own trial")
        self.change(self.teacher, study, {"kind": "add_fit", "family": "constant"})
        self.assertEqual(self.rows(), [])
        self.assertEqual(self.teacher.send("GET", self.at)["copies"], 0)
        self.assertIsNone(self.teacher.send("GET", f"{self.at}/overlay"))
        self.assertIn("400", str(self.teacher.post(f"/api{self.at}/pool").status_code))
        again = self.teacher.send("POST", f"{self.at}/trial", status=201)["study"]
        self.assertEqual(self.teacher.get(f"/api/studies/{study}").status_code, 404, "tried anew")
        self.assertEqual(len(self.teacher.send("GET", f"/studies/{again}")["analysis"]["fits"]), 1)
        self.ben.send("POST", f"{self.at}/trial", status=404)
