"""Light dataclasses behave as the standard library's do."""

import copy
import dataclasses
import pickle

import pytest

from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True)
class Light:
    a: int
    b: str = "b"
    c: float = dataclasses.field(default=0.0, compare=False)


@dataclasses.dataclass(frozen=True, slots=True)
class Standard:
    a: int
    b: str = "b"
    c: float = dataclasses.field(default=0.0, compare=False)


@dataclass(frozen=True)
class Other:
    a: int
    b: str = "b"
    c: float = 0.0


@dataclass
class Loose:
    a: int


@dataclass(frozen=True)
class Empty:
    pass


@pytest.mark.parametrize(("one", "two"), [((1,), (1,)), ((1,), (2,)), ((1, "x"), (1, "b")), ((1, "b", 3.0), (1,))])
def test_what_is_equal_is_equal_and_hashes_alike_as_in_the_standard_one(one, two):
    same = Standard(*one) == Standard(*two)
    assert (Light(*one) == Light(*two)) is same
    assert (hash(Light(*one)) == hash(Light(*two))) is same
    assert repr(Light(*one)) == repr(Standard(*one)).replace("Standard", "Light")


def test_another_class_with_the_same_values_is_another_value():
    assert Light(1) != Other(1)
    assert Empty() == Empty()
    assert len({Empty(), Empty()}) == 1
    with pytest.raises(TypeError, match="unhashable"):
        hash(Loose(1))


def test_it_is_replaced_copied_and_packed_like_any_other():
    light = Light(1, "x", 2.0)
    assert dataclasses.replace(light, a=2) == Light(2, "x")
    assert copy.deepcopy(light) == light
    assert pickle.loads(pickle.dumps(light)) == light
    assert [each.name for each in dataclasses.fields(Light)] == ["a", "b", "c"]
