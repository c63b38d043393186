"""Two people save the same form: each field is the one's or the other's, and a field of both is a conflict."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from basilica.core.diff.field_merge import Settled, merge_fields

FIELDS = st.fixed_dictionaries(
    {name: st.sampled_from(("", "old", "new", "newer")) for name in ("title", "path", "draft")}
)


@given(FIELDS, FIELDS, FIELDS)
def test_no_field_of_either_is_lost_without_a_conflict(
    mine: dict[str, str], opened: dict[str, str], theirs: dict[str, str]
) -> None:
    merged = merge_fields(mine, opened, theirs)
    after = {**theirs, **merged.changed}
    for name, value in after.items():
        if mine[name] == opened[name]:
            assert value == theirs[name]
        else:
            assert value == mine[name]
            lost = theirs[name] not in (opened[name], mine[name])
            assert merged.theirs.get(name) == (theirs[name] if lost else None)
    # Sent once more from the screen that was shown again, it comes out the same.
    again = merge_fields({**theirs, **merged.typed}, merged.opened, theirs)
    assert (again.changed, again.theirs) == (merged.changed, merged.theirs)


@given(FIELDS, FIELDS, FIELDS, st.dictionaries(st.sampled_from(("title", "path")), st.booleans()), st.booleans())
def test_a_conflict_is_settled_for_the_value_that_was_seen(
    mine: dict[str, str], opened: dict[str, str], theirs: dict[str, str], choices: dict[str, bool], changed_again: bool
) -> None:
    settled = {name: Settled(own, "another" if changed_again else theirs[name]) for name, own in choices.items()}
    open_still, merged = merge_fields(mine, opened, theirs), merge_fields(mine, opened, theirs, settled)
    if changed_again:
        assert merged == open_still
        return
    assert merged.theirs == {name: value for name, value in open_still.theirs.items() if name not in choices}
    for name in open_still.theirs:
        wanted = mine[name] if choices.get(name) else theirs[name]
        assert {**theirs, **merged.apart}[name] == wanted


def test_a_form_that_does_not_say_what_was_there_is_compared_with_what_is_saved() -> None:
    merged = merge_fields({"title": "Mine", "path": "same"}, {}, {"title": "Theirs", "path": "same"})
    assert (merged.changed, merged.theirs) == ({"title": "Mine"}, {})
