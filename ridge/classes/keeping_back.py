"""What a worksheet keeps back from a student, for as long as the steps are not done."""

from __future__ import annotations

from typing import cast

from ridge.classes.copies import steps_of
from ridge.classes.models import Copy, Worksheet
from ridge.classes.task_steps import done, reached
from ridge.studies.api.withheld import What, Withheld
from ridge.studies.content.store import read_state
from ridge.studies.models import Study
from ridge.studies.words.analyse import analysis_of


def kept_back(study: Study) -> Withheld:
    """From the student whose copy a study is."""
    copy = Copy.objects.filter(study=study).select_related("worksheet").first()
    if copy is None or copy.worksheet is None or not copy.worksheet.withheld:
        return {}
    state = read_state(study)
    return still(
        copy.worksheet, reached(done(steps_of(copy.worksheet), state, analysis_of(state), copy.texts, copy.ticked))
    )


def still(worksheet: Worksheet, so_far: int) -> Withheld:
    """What is withheld when so many steps are done. Nothing is forever: of more steps than there are, all."""
    most = len(worksheet.steps)
    return {cast(What, what): min(step, most) for what, step in worksheet.withheld.items() if so_far < min(step, most)}
