"""The functions that every script begins with, as text."""

HEAD = '''
import numpy as np
from scipy import interpolate, optimize, special, stats

LEVEL = {level!r}  # of all limits


def show(letter, what, value, error=None, unit=""):
    """Print one result with its standard error."""
    print(f"{{letter}}  {{what}} = {{value:.10g}}" + ("" if error is None else f" ± {{error:.6g}}") + f" {{unit}}".rstrip())


def show_limits(letter, what, value, low, high, unit=""):
    """Print one result with its limits."""
    print(f"{{letter}}  {{what}} = {{value:.10g}}, from {{low:.8g}} to {{high:.8g}} {{unit}}".rstrip())


def design(model, count, x):
    """A model that is linear in its parameters: what each parameter is multiplied by, and what is left without them."""
    rest = model(x, *np.zeros(count))
    return np.column_stack([model(x, *one) - rest for one in np.eye(count)]), rest


def linear_least_squares(model, count, x, y, weight):
    """The parameters with the least weighted sum of squared residuals, in one step."""
    matrix, rest = design(model, count, x)
    root, size = np.sqrt(weight), np.linalg.norm(matrix, axis=0)
    values, *_ = np.linalg.lstsq(root[:, None] * matrix / size, root * (y - rest), rcond=None)
    return values / size


def least_squares(model, start, x, y, weight):
    """The same for a curve that is not linear in its parameters: step by step, downhill from a start."""
    root, size = np.sqrt(weight), np.where(start != 0, np.abs(start), 1.0)

    def misses(inner):
        return root * (model(x, *(inner * size)) - y)

    found = optimize.least_squares(
        misses, start / size, jac="3-point", x_scale="jac", xtol=1e-15, ftol=1e-15, gtol=1e-15, max_nfev=2000
    )
    return found.x * size


def slopes(model, values, x):
    """How the curve at x moves with each parameter: central differences."""
    columns = []
    for place, value in enumerate(values):
        step = 1e-5 * (abs(value) or 1.0)
        up, down = values.copy(), values.copy()
        up[place], down[place] = value + step, value - step
        columns.append((model(x, *up) - model(x, *down)) / (2 * step))
    return np.column_stack(columns)


def covariance_of(model, values, x, weight, variance):
    """Covariance of the parameters: variance of a reading of weight one times the inverse of J'WJ."""
    jacobian = np.sqrt(weight)[:, None] * slopes(model, values, x)
    size = np.linalg.norm(jacobian, axis=0)
    _, singular, directions = np.linalg.svd(jacobian / size, full_matrices=False)
    inverse = (directions.T / singular**2) @ directions
    return variance * inverse / np.outer(size, size)


def following(formula, values, covariance):
    """What follows from the parameters, and its standard uncertainty: slopes by central differences."""
    gradient = np.empty(len(values))
    for place, value in enumerate(values):
        step = 1e-6 * (abs(value) or 1.0)
        up, down = values.copy(), values.copy()
        up[place], down[place] = value + step, value - step
        gradient[place] = (formula(*up) - formula(*down)) / (2 * step)
    return formula(*values), np.sqrt(gradient @ covariance @ gradient)


def half_width(model, values, covariance, x, deviation, repeats, width):
    """Half the width of the limits of the mean of so many new readings at x."""
    gradient = slopes(model, values, np.array([x]))[0]
    return width * np.sqrt(gradient @ covariance @ gradient + deviation**2 / repeats)


def x_at(curve, outside, y, bracket, low_end, high_end):
    """The x at which the curve takes the value y, and its limits: where y leaves the band (for a line: Fieller's theorem)."""
    x = optimize.brentq(lambda x: curve(x) - y, *bracket, xtol=1e-14, rtol=1e-14)
    ends = []
    for end in (low_end, high_end):
        if np.isinf(end):
            ends.append(end)
        elif np.isfinite(outside(end)):
            ends.append(optimize.brentq(outside, x, end, rtol=1e-12))
        else:  # the curve ends first
            inner = x
            for _ in range(200):
                middle = (inner + end) / 2
                inner, end = (middle, end) if outside(middle) <= 0 else (inner, middle)
            ends.append(inner)
    return x, *ends
'''
