"""Worksheets: made from a study, joined by students, solved, handed in, and a class at a glance."""

from __future__ import annotations

import csv
import io
import re
from typing import Any
from unittest.mock import patch

import orjson
from django.test import Client, TestCase, override_settings

from ridge.accounts.models import User
from ridge.accounts.rates import Rate
from ridge.classes import student_routes
from ridge.classes.models import Copy, HandIn, Worksheet
from ridge.site.api import api
from ridge.studies.content.store import read_state
from ridge.studies.models import Study
from ridge.studies.out.study_file import read_study

NOT_YOURS = "There is no such study on your shelf."


class Person(Client):
    def send(self, method: str, path: str, body: Any = None, status: int = 200) -> Any:
        answer = self.generic(method, f"/api{path}", orjson.dumps(body or {}), content_type="application/json")
        assert answer.status_code == status, (method, path, answer.status_code, answer.content)
        return answer.json() if answer.content else None


class Class(TestCase):
    def setUp(self) -> None:
        rate = patch.object(student_routes, "_wrong", Rate(20))
        rate.start()
        self.addCleanup(rate.stop)
        self.teacher, self.ann, self.ben = Person(), Person(), Person()
        study = self.teacher.send("POST", "/studies", {"sample": "salinity-probe"}, 201)["id"]
        self.sheet = self.teacher.send("POST", f"/studies/{study}/worksheet_of_it", status=201)
        self.at = f"/worksheets/{self.sheet['id']}"
        self.mend({"text": "Look"})

    def mend(self, *steps: dict[str, Any], closed: bool = False, begin: str = "all") -> Any:
        wanted = {"title": "Salinity", "steps": steps, "closed": closed, "begin": begin}
        self.sheet = self.teacher.send("PUT", self.at, wanted)
        return self.sheet

    def join(self, who: Person, name: str, status: int = 201) -> Any:
        found = who.send("POST", "/join", {"code": self.sheet["code"], "student": name}, status)
        return found["study"] if status == 201 else found["message"]

    def change(self, who: Person, study: str, change: dict[str, Any]) -> Any:
        version = who.send("GET", f"/studies/{study}")["version"]
        return who.send("POST", f"/studies/{study}/changes", {"version": version, "change": change})

    def task(self, who: Person, study: str) -> Any:
        return who.send("GET", f"/studies/{study}/task")

    def rows(self) -> Any:
        return self.teacher.send("GET", f"{self.at}/class")["copies"]


class Solving(Class):
    def test_from_the_first_step_to_handing_in(self) -> None:
        self.mend(
            {"text": "What do you expect? $U = m S + c$", "needs": {"kind": "text", "count": 3}},
            {"text": "Look at the residuals"},
            {"text": "Fit a parabola", "needs": {"kind": "fit", "family": "polynomial"}},
            {"text": "How salty is the quay?", "needs": {"kind": "answer", "value": 27.08, "tolerance": 0.1}},
            {"text": "Measure more", "needs": {"kind": "readings", "count": 17}},
        )
        study = self.join(self.ann, "Ann")
        task = self.task(self.ann, study)
        self.assertEqual([(one["done"], one["open"]) for one in task["steps"]],
            [(False, True), (False, False), (False, False), (True, False), (False, False)])  # fmt: skip
        self.assertEqual([one["text"] for one in task["steps"]][1:], [""] * 4, "what is not open yet is not told")
        self.assertNotIn("27.08", str(task))
        first, second, *_ = (one["key"] for one in task["steps"])
        at = f"/studies/{study}/task"
        self.assertEqual(self.ann.send("PUT", at, {"step": first, "text": "It rises"})["reached"], 0)
        self.assertEqual(self.ann.send("PUT", at, {"step": first, "text": "It rises évenly"})["reached"], 1)
        self.assertEqual(self.ann.send("PUT", at, {"step": second, "done": True})["reached"], 2)
        self.assertEqual(self.ann.send("PUT", at, {"step": second, "done": False})["reached"], 1)
        self.ann.send("PUT", at, {"step": second, "done": True})
        self.change(self.ann, study, {"kind": "add_fit", "family": "polynomial", "options": {"degree": 2}})
        self.assertEqual(self.task(self.ann, study)["reached"], 4)
        self.change(self.ann, study, {"kind": "set_cells", "row": 30, "column": 1, "block": [["12", "276"]]})
        task = self.task(self.ann, study)
        self.assertEqual((task["reached"], task["number"]), (5, 0))
        handed = self.ann.send("POST", f"{at}/hand_in")
        self.assertEqual(handed["number"], 1)
        self.change(self.ann, study, {"kind": "edit_study", "title": "Changed after it"})
        frozen = HandIn.objects.get()
        self.assertEqual(read_study(frozen.study_file).state.title, "Salinity")
        self.assertEqual(frozen.texts[first], "It rises évenly")
        self.assertEqual(self.ann.send("POST", f"{at}/hand_in")["number"], 2)

    def test_the_copy_is_the_students_own_and_the_teacher_only_looks(self) -> None:
        study = self.join(self.ann, "Ann")
        mine = self.ann.send("GET", f"/studies/{study}")
        theirs = self.teacher.send("GET", f"/studies/{study}")
        self.assertEqual(mine["analysis"], theirs["analysis"])
        self.assertIsNotNone(self.task(self.teacher, study))
        change = {"version": mine["version"], "change": {"kind": "edit_study", "title": "Mine"}}
        self.teacher.send("POST", f"/studies/{study}/changes", change, 404)
        self.teacher.send("PUT", f"/studies/{study}/task", {"step": "ab", "text": "x"}, 404)
        self.teacher.send("POST", f"/studies/{study}/task/hand_in", status=404)
        for path in ("", "/task", "/comments", "/report.html"):
            self.assertEqual(self.ben.get(f"/api/studies/{study}{path}").status_code, 404, path)
        self.teacher.send("POST", f"/studies/{study}/comments", {"text": "Good", "author": "Ms Tarn"}, 201)
        self.assertEqual([one["text"] for one in self.ann.send("GET", f"/studies/{study}/comments")], ["Good"])

    def test_joining_twice_gives_the_same_copy_and_names_are_told_apart(self) -> None:
        study = self.join(self.ann, "Ann")
        self.assertEqual(self.join(self.ann, "Anne"), study)
        self.assertIn("already", self.join(self.ben, "ann", 400))
        self.assertNotEqual(self.join(self.ben, "Ann B."), study)
        for name in ("😀 שלום", "Ω" * 60):
            self.join(Person(), name)
        for wrong in ("", "   ", "a" * 61, "a" * 300):
            Person().send("POST", "/join", {"code": self.sheet["code"], "student": wrong}, 422)

    def test_codes(self) -> None:
        code = self.sheet["code"]
        self.assertRegex(code, "^[2-9A-HJ-NP-Z]{8}$")
        spoken = f"{code[:4].lower()} - {code[4:]}"
        self.assertEqual(self.ben.send("GET", f"/join/{spoken}")["title"], self.sheet["title"])
        for wrong in ("AAAAAAAA", "x", "é"):
            self.assertIn("eight letters", self.ben.send("GET", f"/join/{wrong}", status=404)["message"])
        with patch.object(student_routes, "_wrong", Rate(20)):
            for _ in range(30):
                self.assertEqual(Person().get(f"/api/join/{code}").status_code, 200, "a class behind one address")
            statuses = [self.ben.get("/api/join/WRONGONE").status_code for _ in range(25)]
            self.assertEqual(statuses, [404] * 20 + [429] * 5)
            self.assertEqual(self.ben.get(f"/api/join/{code}").status_code, 429)

    def test_closed_and_opened_again(self) -> None:
        study = self.join(self.ann, "Ann")
        self.mend({"text": "One"}, closed=True)
        self.assertIn("closed", self.join(self.ben, "Ben", 400))
        self.assertEqual(self.join(self.ann, "Ann"), study, "whoever has joined still finds the copy")
        self.assertIn("closed", self.ann.send("POST", f"/studies/{study}/task/hand_in", status=400)["message"])
        self.assertTrue(self.task(self.ann, study)["closed"])
        self.mend({"text": "One"})
        self.ann.send("POST", f"/studies/{study}/task/hand_in")
        self.join(self.ben, "Ben")

    def test_mending_reaches_copies_and_touches_no_work(self) -> None:
        self.mend({"text": "Old", "needs": {"kind": "text"}}, {"text": "Last"})
        study = self.join(self.ann, "Ann")
        key = self.sheet["steps"][0]["key"]
        self.ann.send("PUT", f"/studies/{study}/task", {"step": key, "text": "mine"})
        self.mend({"text": "Put before"}, {"key": key, "text": "New <script>x</script>", "needs": {"kind": "text"}})
        found = {one["key"]: one for one in self.task(self.ann, study)["steps"]}
        self.assertEqual(found[key]["own"], "mine")
        self.assertEqual([one["text"] for one in self.task(self.ann, study)["steps"]], ["Put before", ""])
        self.ann.send("PUT", f"/studies/{study}/task", {"step": "abcdef", "text": "x"}, 404)

    def test_deleted_while_students_work(self) -> None:
        study = self.join(self.ann, "Ann")
        self.teacher.send("DELETE", self.at, status=204)
        self.assertIn("stays with you", self.task(self.ann, study)["gone"])
        self.assertIn("stays", self.ann.send("POST", f"/studies/{study}/task/hand_in", status=400)["message"])
        self.assertEqual(self.teacher.get(f"/api/studies/{study}").status_code, 404)
        self.change(self.ann, study, {"kind": "edit_study", "title": "Still mine"})
        self.ben.send("POST", "/join", {"code": self.sheet["code"], "student": "Ben"}, 404)

    def test_a_study_that_is_no_copy(self) -> None:
        study = self.ann.send("POST", "/studies", {}, 201)["id"]
        self.assertIsNone(self.task(self.ann, study))
        self.ann.send("POST", f"/studies/{study}/task/hand_in", status=404)
        self.ann.send("PUT", f"/studies/{study}/task", {"step": "ab", "done": True}, 404)

    def test_with_the_picture_of_the_study(self) -> None:
        study = self.teacher.send("POST", "/studies", {"sample": "sheer-line"}, 201)["id"]
        self.sheet = self.teacher.send("POST", f"/studies/{study}/worksheet_of_it", status=201)
        copy = self.join(self.ann, "Ann")
        digest = self.ann.send("GET", f"/studies/{copy}")["picture"]["laid"]["digest"]
        self.assertEqual(self.ann.get(f"/api/studies/{copy}/pictures/{digest}").status_code, 200)

    def test_bad_steps_are_refused(self) -> None:
        for steps in (
            [{"text": ""}], [{"text": "a" * 4001}], [{"text": "a", "needs": {"kind": "magic"}}], [{"text": "a"}] * 41,
            [{"text": "a", "needs": {"kind": "text", "count": 0}}], [{"text": "a", "needs": {"kind": "answer", "tolerance": -1}}],
            [{"key": "../x", "text": "a"}],
        ):  # fmt: skip
            self.teacher.send("PUT", self.at, {"title": "T", "steps": steps}, 422)
        same = self.mend({"key": "ab", "text": "One"}, {"key": "ab", "text": "Two"})
        self.assertEqual(len({one["key"] for one in same["steps"]}), 2)

    def test_what_copies_begin_with(self) -> None:
        begun = {}
        for begin in ("all", "readings", "columns"):
            self.mend({"text": "One"}, begin=begin)
            who = Person()
            study = self.join(who, f"Student {begin}")
            found = who.send("GET", f"/studies/{study}")
            begun[begin] = (
                found["row_count"],
                len(found["analysis"]["fits"]),
                [one["name"] for one in found["columns"]],
            )
        names = ["sample", "salinity", "signal"]
        self.assertEqual(begun, {"all": (26, 1, names), "readings": (26, 0, names), "columns": (0, 0, names)})
        self.teacher.send("PUT", self.at, {"title": "T", "steps": [], "begin": "nothing"}, 422)

    def test_two_windows_write_to_two_steps(self) -> None:
        """The second has read the copy before the first one has written."""
        self.mend({"text": "One"}, {"text": "Two"})
        study = self.join(self.ann, "Ann")
        first, second = (step["key"] for step in self.sheet["steps"])
        find = student_routes.steps_of

        def meanwhile(sheet: Worksheet) -> Any:
            copy = Copy.objects.get()
            if not copy.texts:
                Copy.objects.update(texts={first: "from the other window"})
            return find(sheet)

        with patch.object(student_routes, "steps_of", meanwhile):
            self.ann.send("PUT", f"/studies/{study}/task", {"step": second, "text": "from this one"})
        self.assertEqual(Copy.objects.get().texts, {first: "from the other window", second: "from this one"})

    def test_what_is_handed_in_takes_room(self) -> None:
        study = self.join(self.ann, "Ann")
        before = Study.objects.get(pk=study).size
        self.ann.send("POST", f"/studies/{study}/task/hand_in")
        self.assertGreater(Study.objects.get(pk=study).size, before + 1000)
        with override_settings(BYTES_EACH=1), patch("ridge.studies.content.room.LOOKED_AFTER", 1):
            refused = self.ann.send("POST", f"/studies/{study}/task/hand_in", status=400)
            self.assertIn("at most", refused["message"])
        self.assertEqual(HandIn.objects.count(), 1)


class Taken(Class):
    def test_a_guests_worksheets_go_along_into_an_account(self) -> None:
        other = Person()
        other.send("POST", "/account", {"name": "Tarn", "password": "a long walk on the pier"}, 201)
        self.teacher.send("POST", "/account/sign_in", {"name": "Tarn", "password": "a long walk on the pier"})
        self.assertEqual(len(self.teacher.send("GET", "/worksheets")), 1)

    @override_settings(MODE="demo")
    def test_in_the_demo_where_all_are_one_the_name_tells_them_apart(self) -> None:
        User.objects.create_user("field-week")
        one, other = Person(), Person()
        study = self.join(one, "Ann")
        self.assertNotEqual(self.join(other, "Ben"), study)
        self.assertEqual(self.join(other, "ann"), study)


class AtAGlance(Class):
    def test_one_row_each(self) -> None:
        self.mend({"text": "Say", "needs": {"kind": "text", "count": 2}}, {"text": "Then"})
        mine = self.join(self.ben, "Ben")
        self.join(self.ann, "ann")
        key = self.sheet["steps"][0]["key"]
        self.ben.send("PUT", f"/studies/{mine}/task", {"step": key, "text": "=1+1 is two"})
        self.ben.send("POST", f"/studies/{mine}/task/hand_in")
        ann, ben = self.rows()
        self.assertEqual((ann["student"], ben["student"]), ("ann", "Ben"))
        self.assertEqual((ann["steps"], ben["steps"], ben["reached"]), ([False, False], [True, False], 1))
        self.assertEqual((ann["number"], ann["handed_in"], ben["number"]), (0, None, 1))
        self.assertEqual((ben["readings"], ben["model"], ben["r_squared"]), (16, "line", "0.9998"))
        self.assertIn("m = 21.60 ± 0.09 mV/(g/kg)", ben["parameters"][0].replace("\u202f", " "))
        self.assertEqual(len(ben["answers"]), 3)
        told = self.teacher.send("GET", self.at)
        self.assertEqual((told["copies"], told["handed_in"]), (2, 1))
        listed = list(csv.reader(io.StringIO(self.teacher.get(f"/api{self.at}/class.csv").content.decode("utf-8-sig"))))
        self.assertEqual(listed[0][0], "student")
        self.assertEqual([row[0] for row in listed[1:]], ["ann", "Ben"])
        self.assertIn("is two", listed[2][8])
        self.assertEqual(self.teacher.get(f"/api{self.at}/class.xlsx").status_code, 200)

    def test_what_was_typed_is_the_same_for_everybody(self) -> None:
        """Steps, words and comments keep their points for a person who writes decimal commas."""
        typed = "See chapter 3.2: exp(-0.25*S), about 1.5 V"
        self.mend({"text": typed, "needs": {"kind": "text", "count": 2}})
        study = self.join(self.ann, "Ann 1.5")
        for who in (self.teacher, self.ann):
            who.send("PUT", "/decimal_sign", {"sign": "comma"}, 204)
        self.assertEqual(self.task(self.ann, study)["steps"][0]["text"], typed)
        key = self.sheet["steps"][0]["key"]
        self.assertEqual(
            self.ann.send("PUT", f"/studies/{study}/task", {"step": key, "text": typed})["steps"][0]["own"], typed
        )
        left = self.ann.send("POST", f"/studies/{study}/comments", {"text": typed}, 201)
        self.assertEqual(left["text"], typed)
        self.assertEqual(self.teacher.send("GET", self.at)["steps"][0]["text"], typed)
        found = self.teacher.send("GET", f"{self.at}/class")
        self.assertEqual(found["worksheet"]["steps"][0]["text"], typed)
        (row,) = found["copies"]
        self.assertEqual((row["texts"][key], row["student"]), (typed, "Ann 1.5"))
        self.assertIn("21,60", row["parameters"][0])

    def test_all_readings_in_one_study(self) -> None:
        self.assertIn("readings", self.teacher.send("POST", f"{self.at}/pool", status=400)["message"])
        self.assertIsNone(self.teacher.send("GET", f"{self.at}/overlay"))
        ann, ben, odd = self.join(self.ann, "Ann"), self.join(self.ben, "Ben"), Person()
        other = self.join(odd, "Odd")
        columns = odd.send("GET", f"/studies/{other}")["columns"]
        y = next(one["key"] for one in columns if one["role"] == "y")
        self.change(odd, other, {"kind": "edit_column", "key": y, "unit": "V"})
        self.change(self.ben, ben, {"kind": "mark_rows", "marks": [{"row": 0, "reason": "spilt"}]})
        found = self.teacher.send("POST", f"{self.at}/pool", status=201)
        self.assertEqual(found["said"], "31 readings of 2 students. Left out: Odd (measured in g/kg and V).")
        state = read_state(Study.objects.get(pk=found["study"]["id"]))
        series, x, y_column = state.columns
        self.assertEqual((series.role, x.unit, y_column.unit), ("series", "g/kg", "mV"))
        self.assertEqual((series.cells.count("Ann"), series.cells.count("Ben")), (16, 15))
        self.assertEqual((x.cells[0], y_column.cells[0]), ("0", "14"))
        self.assertTrue(ann)
        over = self.teacher.send("GET", f"{self.at}/overlay")
        self.assertEqual([one["student"] for one in over["students"]], ["Ann", "Ben"])
        self.assertEqual(over["left_out"], ["Odd (measured in g/kg and V)"])
        self.assertEqual((over["x_title"], over["y_title"]), ("salinity S / (g/kg)", "signal U / mV"))
        first, second = over["students"]
        self.assertEqual((len(first["x"]), len(second["x"]), first["x"][0], first["y"][0]), (16, 15, 0, 14))
        self.assertAlmostEqual(first["curve_y"][-1], 21.60 * 35 + 16.7, delta=1)
        self.assertLess(over["y"]["low"], 14)
        self.assertGreater(over["y"]["high"], 778)

    def test_opened_as_it_was_handed_in(self) -> None:
        study = self.join(self.ann, "Ann")
        (row,) = self.rows()
        at = f"{self.at}/copies/{row['id']}/handed_in"
        self.teacher.send("POST", at, status=404)
        self.ann.send("POST", f"/studies/{study}/task/hand_in")
        self.change(self.ann, study, {"kind": "set_cells", "row": 0, "column": 2, "block": [["999"]]})
        opened = self.teacher.send("POST", at, status=201)
        self.assertEqual(opened["title"], "Ann: Salinity")
        self.assertEqual(read_state(Study.objects.get(pk=opened["id"])).columns[2].cells[0], "14")
        self.ben.send("POST", at, status=404)
        other = self.teacher.send("POST", "/shipped_worksheets/calibration", status=201)
        self.teacher.send("POST", f"/worksheets/{other['id']}/copies/{row['id']}/handed_in", status=404)


class Trust(Class):
    def test_nobody_elses_worksheets(self) -> None:
        """Every address of a worksheet's, asked by a stranger and by a student of the class."""
        self.join(self.ann, "Ann")
        asked = 0
        for path, methods in api.get_openapi_schema()["paths"].items():
            if "/worksheets/{worksheet_id}" not in path:
                continue
            filled = path.replace("{worksheet_id}", self.sheet["id"]).replace("{kind}", "csv").replace("{copy_id}", "1")
            for method in methods:
                for client in (self.ann, self.ben, Person()):
                    answer = client.generic(
                        method.upper(),
                        filled,
                        orjson.dumps({"title": "T", "steps": []}),
                        content_type="application/json",
                    )
                    self.assertEqual((answer.status_code, answer.json()["message"]), (404, NOT_YOURS), (method, path))
                    asked += 1
        self.assertEqual(asked, 3 * 9)
        self.assertEqual(self.ann.send("GET", "/worksheets"), [])
        self.assertEqual(len(self.teacher.send("GET", "/worksheets")), 1)
        self.assertEqual(Worksheet.objects.get().title, self.sheet["title"])

    def test_students_do_not_see_each_other(self) -> None:
        ann = self.join(self.ann, "Ann")
        ben = self.join(self.ben, "Ben")
        for who, study in ((self.ann, ben), (self.ben, ann)):
            for path in ("", "/task", "/study.json"):
                self.assertEqual(who.get(f"/api/studies/{study}{path}").status_code, 404)
        self.assertNotIn("Ben", str(self.task(self.ann, ann)))

    def test_only_ones_own_study_becomes_a_worksheet(self) -> None:
        study = self.join(self.ann, "Ann")
        self.teacher.send("POST", f"/studies/{study}/worksheet_of_it", status=404)

    def test_deleting_deletes(self) -> None:
        study = self.join(self.ann, "Ann")
        self.ann.send("POST", f"/studies/{study}/task/hand_in")
        self.ann.send("DELETE", f"/studies/{study}")
        self.ann.send("DELETE", "/bin", status=204)
        self.assertEqual((Copy.objects.count(), HandIn.objects.count()), (0, 0))
        self.assertEqual(self.rows(), [])
        self.assertTrue(re.fullmatch(r"\w{8}", Worksheet.objects.get().code))


LEAST_SQUARES = ("21.60 ± 0.09", "16.7 ± 1.8", "27.08 ± 0.27")
"""Slope, offset and an answer of the salinity probe."""


class Withheld(Class):
    """What is kept back cannot be had through the API either."""

    def begin(self, withheld: dict[str, int], begin: str = "all") -> str:
        steps = [{"text": "First", "needs": {"kind": "text"}}, {"text": "Then"}]
        wanted = {"title": "Salinity", "steps": steps, "begin": begin, "withheld": withheld}
        self.sheet = self.teacher.send("PUT", self.at, wanted)
        return str(self.join(self.ann, "Ann"))

    def everything(self, who: Person, study: str) -> dict[str, str]:
        """All that the API tells of a study, by address, with every number that it contains as text."""
        told = {}
        version = who.send("GET", f"/studies/{study}")["version"]
        change = {"kind": "edit_study", "question": "?"}
        asked: list[tuple[str, str, Any]] = [
            ("GET", path, None)
            for path in (
                "", "/refined?version=0", "/curves?low=0&high=35", "/results", "/residuals/A", "/candidates/line", "/ranking", "/comparison",
                "/resampling", "/without/A/1", "/better/A", "/workings", "/working?of=A&what=goodness-of-fit", "/working?of=A&what=line-by-sums",
                "/next_place?of=parameter:A:slope", "/rows/17", "/figure.svg", "/report.html", "/study.json", "/script.py", "/readings.csv",
                "/task", "/history", "/newer?version=-1",
            )
        ]  # fmt: skip
        asked += [
            ("POST", "/preview", {"version": version, "change": change}),
            ("POST", "/moving", {"version": version, "low": 0, "high": 35, "change": {
                "kind": "set_cells", "row": 30, "column": 1, "block": [["", ""]]}}),
            ("POST", "/ask", {"direction": "x_at_y", "given": "601.7"}),
            ("POST", "/changes", {"version": version, "change": change}),
            ("POST", "/duplicate", {}),
            ("POST", "/worksheet_of_it", {}),
        ]  # fmt: skip
        for method, path, body in asked:
            answer = who.generic(
                method, f"/api/studies/{study}{path}", orjson.dumps(body or {}), content_type="application/json"
            )
            told[path] = f"{answer.status_code} {answer.content.decode()}"
        return told

    def where(self, told: dict[str, str], text: str) -> list[str]:
        return [path for path, said in told.items() if text in said]

    def test_how_well_it_fits(self) -> None:
        study = self.begin({"quality": 1})
        told = self.everything(self.ann, study)
        for text in ("0.9998", "99.98", "4.01 mV", "4.0 mV", "R²"):
            self.assertEqual(self.where(told, text), [], text)
        self.assertIn("21.60", told[""])
        self.assertTrue(told["/comparison"].startswith("403"))
        self.assertTrue(told["/worksheet_of_it"].startswith("403"), "copies of one's own copy would be told")
        self.assertIn("when step 1 is done", told["/comparison"])
        self.assertEqual(
            self.task(self.ann, study)["withheld"], [{"part": "quality", "what": "How well it fits", "until": 1}]
        )
        self.assertIn("0.9998", self.everything(self.teacher, study)[""], "the teacher sees it")

        key = self.task(self.ann, study)["steps"][0]["key"]
        self.ann.send("PUT", f"/studies/{study}/task", {"step": key, "text": "Done"})
        self.assertEqual(self.task(self.ann, study)["withheld"], [])
        released = self.everything(self.ann, study)
        self.assertTrue(self.where(released, "0.9998"))
        self.assertEqual(self.where(released, "when step"), [])

    def test_answers(self) -> None:
        study = self.begin({"answers": 2})
        told = self.everything(self.ann, study)
        self.assertEqual(self.where(told, "27.08"), [])
        self.assertIn("0.9998", told[""])
        refused = {"kind": "keep_answer", "direction": "x_at_y", "given": "601.7"}
        version = self.ann.send("GET", f"/studies/{study}")["version"]
        found = self.ann.send("POST", f"/studies/{study}/changes", {"version": version, "change": refused}, 400)
        self.assertIn("when step 2 is done", found["message"])

    def test_the_fit_by_least_squares(self) -> None:
        study = self.begin({"fit": 1})
        at = f"/studies/{study}"
        self.assertEqual(self.ann.send("GET", at)["analysis"]["fits"], [])
        line = {"kind": "add_fit", "family": "line"}
        for path in ("/changes", "/preview"):
            found = self.ann.send("POST", f"{at}{path}", {"version": 0, "change": line}, 400)
            self.assertIn("by hand", found["message"])
        self.change(self.ann, study, line | {"by_hand": True})
        told = self.everything(self.ann, study)
        for text in LEAST_SQUARES:
            self.assertEqual(self.where(told, text), [], text)
        (fit,) = self.ann.send("GET", at)["analysis"]["fits"]
        self.assertEqual((fit["kind"], fit["least_rss"]), ("hand", ""))
        letter = fit["letter"]
        version = self.ann.send("GET", at)["version"]
        free = {"kind": "set_fit", "letter": letter, "by_hand": False}
        self.ann.send("POST", f"{at}/changes", {"version": version, "change": free}, 400)
        key = self.task(self.ann, study)["steps"][0]["key"]
        self.ann.send("PUT", f"{at}/task", {"step": key, "text": "Done"})
        self.change(self.ann, study, free)
        self.assertIn("21.60", str(self.ann.send("GET", at)))

    def test_a_link_to_the_copy_tells_no_more(self) -> None:
        study = self.begin({"quality": 1, "answers": 1})
        address = self.ann.send("POST", f"/studies/{study}/links", status=201)["address"]
        other = Person()
        other.send("POST", "/look", {"token": address.rpartition("/")[2]})
        told = {path: said for path, said in self.everything(other, study).items() if path != "/changes"}
        for text in ("0.9998", "27.08", "4.01 mV"):
            self.assertEqual(self.where(told, text), [], text)
        self.assertTrue(told["/duplicate"].startswith("403"))

    def test_suggestions_and_workings(self) -> None:
        told = self.everything(self.ann, self.begin({"suggestions": 1, "workings": 1}))
        for path in ("/ranking", "/candidates/line", "/better/A", "/workings", "/working?of=A&what=line-by-sums"):
            self.assertTrue(told[path].startswith("403"), path)
        self.assertIn("0.9998", told[""])

    def test_of_more_steps_than_there_are_all(self) -> None:
        study = self.begin({"quality": 9})
        first, second = (step["key"] for step in self.task(self.ann, study)["steps"])
        self.assertEqual(self.task(self.ann, study)["withheld"][0]["until"], 2)
        self.ann.send("PUT", f"/studies/{study}/task", {"step": first, "text": "Done"})
        self.assertNotIn("0.9998", str(self.ann.send("GET", f"/studies/{study}")))
        self.ann.send("PUT", f"/studies/{study}/task", {"step": second, "done": True})
        self.assertIn("0.9998", str(self.ann.send("GET", f"/studies/{study}")))

    def test_bad_ones_are_refused(self) -> None:
        for withheld in ({"quality": 0}, {"magic": 1}, {"quality": 41}, {"quality": "soon"}):
            self.teacher.send("PUT", self.at, {"title": "T", "steps": [], "withheld": withheld}, 422)


class ThatShip(Class):
    """Each is solvable from start to end, by what a student would do."""

    WAYS: dict[str, list[dict[str, Any]]] = {
        "by-hand": [{"kind": "add_fit", "family": "sinusoid", "by_hand": True}],
        "calibration": [{"kind": "add_fit", "family": "line"}],
        "degree": [{"kind": "add_fit", "family": "polynomial", "options": {"degree": degree}} for degree in (3, 2, 6)],
    }
    ASKED = {"by-hand": "36", "degree": "1.2"}

    def test_all_of_them(self) -> None:
        offered = self.teacher.send("GET", "/shipped_worksheets")
        self.assertEqual([one["name"] for one in offered], list(self.WAYS))
        for one in offered:
            with self.subTest(one["name"]):
                self.solve(one["name"], one["steps"])
        self.teacher.send("POST", "/shipped_worksheets/none", status=404)

    def solve(self, name: str, count: int) -> None:
        self.sheet = self.teacher.send("POST", f"/shipped_worksheets/{name}", status=201)
        self.at = f"/worksheets/{self.sheet['id']}"
        self.assertEqual(len(self.sheet["steps"]), count)
        student = Person()
        study = self.join(student, "Ann")
        for place in range(count):
            task = self.task(student, study)
            self.assertEqual(task["reached"], place, (name, place))
            step = task["steps"][place]
            self.assertTrue(step["open"] and step["text"])
            at = f"/studies/{study}/task"
            match step["kind"]:
                case "text":
                    student.send("PUT", at, {"step": step["key"], "text": "word " * 12})
                case "tick":
                    self.change(student, study, {"kind": "set_fit", "letter": "A", "by_hand": False})
                    student.send("PUT", at, {"step": step["key"], "done": True})
                case "fit":
                    for change in self.WAYS[name]:
                        self.change(student, study, change)
                case "answer":
                    if asked := self.ASKED.get(name):
                        self.change(student, study, {"kind": "keep_answer", "direction": "y_at_x", "given": asked})
        done = self.task(student, study)
        self.assertEqual((done["reached"], done["withheld"]), (count, []), name)
        student.send("POST", f"/studies/{study}/task/hand_in")
        (row,) = self.rows()
        self.assertEqual((row["reached"], row["number"]), (count, 1))
