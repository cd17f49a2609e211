"""What random documents are drawn by: a few values that no rounding makes ambiguous, and records of them."""

from __future__ import annotations

from hypothesis import strategies as st


def one_of(*values):
    return st.sampled_from(values)


def some(**fields):
    """A dictionary in which each field may be left out."""
    return st.fixed_dictionaries({}, optional=fields)


def record(kind, **fields):
    return some(**fields).map(lambda d: {"kind": kind, **d})


def keyed(kind, **fields):
    """The same, of which one of these numbers may have keys: name and values that it goes through."""
    key = st.fixed_dictionaries(
        {"frame": st.integers(0, 6), "value": st.integers(0, 2), "way": one_of(*WAYS)}
    )
    curve = st.tuples(
        st.sampled_from(sorted(fields)),
        st.lists(key, min_size=1, max_size=4, unique_by=lambda k: k["frame"]),
        one_of("hold", "loop", "ping-pong"),
    ).map(
        lambda row: {
            row[0]: {
                "keys": [
                    {**k, "value": fields[row[0]][k["value"]]}
                    for k in sorted(row[1], key=lambda k: k["frame"])
                ],
                "beyond": row[2],
            }
        }
    )
    return st.tuples(kind, st.none() | st.none() | curve).map(
        lambda row: {**row[0], "keys": row[1]} if row[1] else row[0]
    )


WAYS = ("hold", "linear", "smooth", "eased")
number = one_of(0.0, 0.13, 0.37, 0.62, 0.9)
length = one_of(0.7, 1.0, 2.3)
triple = st.tuples(number, number, number)
colour_channels = one_of("rgb", "r", "gb")
any_channels = one_of("rgb", "rgba", "a", "rb", "ga")
place = one_of(-11.0, -3.25, 0.0, 2.5, 8.0)
rotation = one_of(0.0, 17.0, 96.0, -140.0)  # not 90: a border on pixel centres is a matter of rounding
filters = one_of("linear", "cubic", "lanczos")
sizes = {"fit": one_of("stretch", "centre")}
lies = {"fit": one_of("stretch", "centre", "placed")}
