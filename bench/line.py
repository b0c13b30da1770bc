"""The line with all its statistics beside statsmodels' OLS with the same outputs."""

from __future__ import annotations

import numpy as np
import statsmodels.api as sm

from ridge.core import Readings, fit
from ridge.core.models import Line


def ours(x: np.ndarray, y: np.ndarray) -> object:
    result = fit(Readings(x, y), Line())
    tests = [(p.value, p.standard_error, p.t, p.p_value, p.interval(0.95)) for p in result.parameters.values()]
    return (
        tests,
        result.statistics,
        result.fitted,
        result.residuals,
        result.leverage,
        result.standardised_residuals,
        result.cooks_distance,
    )


def theirs(x: np.ndarray, y: np.ndarray) -> object:
    result = sm.OLS(y, sm.add_constant(x)).fit()
    influence = result.get_influence()
    tests = (result.params, result.bse, result.tvalues, result.pvalues, result.conf_int(0.05))
    sums = (
        result.rsquared,
        result.rsquared_adj,
        result.fvalue,
        result.f_pvalue,
        result.ssr,
        result.ess,
        result.centered_tss,
    )
    criteria = (result.aic, result.bic, result.scale, result.fittedvalues, result.resid)
    return (
        tests,
        sums,
        criteria,
        influence.hat_matrix_diag,
        influence.resid_studentized_internal,
        influence.cooks_distance,
    )
