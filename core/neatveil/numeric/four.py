"""Four numbers that are worked on as one: the R, G, B, A of an interleaved pixel.

The compiler turns loops over arrays into instructions on many numbers by itself, but not a pixel's four that
are read at a place of their own. `Four` says it: a value of a kernel that fits one register. Reassociation
stays off here too, see `jit`.
"""

# mypy: disable-error-code="no-untyped-def,no-untyped-call,misc,no-any-return,call-arg,import-untyped"

from __future__ import annotations

from llvmlite import ir
from numba import types
from numba.core.datamodel import models
from numba.extending import intrinsic, register_model

_VECTOR = ir.VectorType(ir.FloatType(), 4)
_PAIR = ir.VectorType(ir.FloatType(), 8)
_INT = ir.IntType(32)


class Four(types.Type):
    """The type of it within kernels; no value of it leaves them."""

    def __init__(self) -> None:
        super().__init__(name="Four")


@register_model(Four)
class _Model(models.PrimitiveModel):
    def __init__(self, manager, kind) -> None:
        super().__init__(manager, kind, _VECTOR)


_FOUR = Four()


def _numbers(*values):
    return ir.Constant(ir.VectorType(_INT, len(values)), list(values))


def _everywhere(builder, value, kind=_VECTOR):
    one = builder.insert_element(ir.Constant(kind, ir.Undefined), value, ir.Constant(_INT, 0))
    return builder.shuffle_vector(one, one, _numbers(*[0] * kind.count))


def _at(context, builder, kind, array, index, vector=_VECTOR):
    data = context.make_array(kind)(context, builder, array).data
    return builder.bitcast(builder.gep(data, [index]), vector.as_pointer())


def _sum_of_product(builder, a, b, c):
    product = builder.fmul(a, b, flags=("contract",))
    return builder.fadd(product, c, flags=("contract",))


def _way(builder, one, other, share):
    """``one`` plus ``share`` of the way to ``other``."""
    share = _everywhere(builder, share, one.type)
    return _sum_of_product(builder, builder.fsub(other, one), share, one)


@intrinsic
def no_four(typing):
    """Four zeros."""

    def made(context, builder, signature, arguments):
        return ir.Constant(_VECTOR, [0.0] * 4)

    return _FOUR(), made


@intrinsic
def four_at(typing, flat, index):
    """Those of a flat float32 array from ``index`` on; not checked against its end."""

    def made(context, builder, signature, arguments):
        found = builder.load(_at(context, builder, signature.args[0], *arguments))
        found.align = 4
        return found

    return _FOUR(flat, index), made


@intrinsic
def put_four(typing, flat, index, four):
    """Into a flat float32 array from ``index`` on; not checked against its end."""

    def made(context, builder, signature, arguments):
        array, index, four = arguments
        builder.store(four, _at(context, builder, signature.args[0], array, index)).align = 4
        return context.get_dummy_value()

    return types.void(flat, index, four), made


@intrinsic
def scaled(typing, four, factor):
    """Each times a float32."""

    def made(context, builder, signature, arguments):
        return builder.fmul(arguments[0], _everywhere(builder, arguments[1]))

    return _FOUR(_FOUR, types.float32), made


@intrinsic
def plus_scaled(typing, total, four, factor):
    """``total`` plus ``four`` times a float32."""

    def made(context, builder, signature, arguments):
        total, four, factor = arguments
        return _sum_of_product(builder, four, _everywhere(builder, factor), total)

    return _FOUR(_FOUR, _FOUR, types.float32), made


@intrinsic
def bilinear(typing, flat, upper, lower, fx, fy):
    """Of the pixels at ``upper`` and ``lower`` of a flat float32 array, and those that follow each: ``fy`` of
    the way down and then ``fx`` to the right."""

    def made(context, builder, signature, arguments):
        flat, upper, lower, fx, fy = arguments
        rows = []
        for index in (upper, lower):
            rows.append(builder.load(_at(context, builder, signature.args[0], flat, index, _PAIR)))
            rows[-1].align = 4
        both = _way(builder, *rows, fy)
        left, right = (builder.shuffle_vector(both, both, _numbers(*range(n, n + 4))) for n in (0, 4))
        return _way(builder, left, right, fx)

    return _FOUR(flat, upper, lower, types.float32, types.float32), made


@intrinsic
def parts_of(typing, four):
    """As a tuple of four float32."""

    def made(context, builder, signature, arguments):
        parts = [builder.extract_element(arguments[0], ir.Constant(_INT, i)) for i in range(4)]
        return context.make_tuple(builder, signature.return_type, parts)

    return types.UniTuple(types.float32, 4)(_FOUR), made


@intrinsic
def put_pixels(typing, r, g, b, a, index, one, two, three, four):
    """Four pixels that follow one another into four flat float32 planes, from ``index`` on."""

    def made(context, builder, signature, arguments):
        planes, index, pixels = arguments[:4], arguments[4], arguments[5:]
        pairs = [
            builder.shuffle_vector(pixels[i], pixels[i + 1], _numbers(*which))
            for which in ((0, 4, 1, 5), (2, 6, 3, 7))
            for i in (0, 2)
        ]
        for k in range(4):
            low, high = pairs[k // 2 * 2 : k // 2 * 2 + 2]
            which = (0, 1, 4, 5) if k % 2 == 0 else (2, 3, 6, 7)
            turned = builder.shuffle_vector(low, high, _numbers(*which))
            builder.store(turned, _at(context, builder, signature.args[k], planes[k], index)).align = 4
        return context.get_dummy_value()

    return types.void(r, g, b, a, index, _FOUR, _FOUR, _FOUR, _FOUR), made


def _fetched(for_writing: int):
    @intrinsic
    def fetch(typing, flat, index):
        def made(context, builder, signature, arguments):
            place = builder.bitcast(
                _at(context, builder, signature.args[0], *arguments), ir.IntType(8).as_pointer()
            )
            kind = ir.FunctionType(ir.VoidType(), [place.type, _INT, _INT, _INT])
            call = builder.module.declare_intrinsic("llvm.prefetch", [place.type], kind)
            builder.call(call, [place, _INT(for_writing), _INT(3), _INT(1)])
            return context.get_dummy_value()

        return types.void(flat, index), made

    return fetch


#: Ask for what lies in a flat float32 array at an index, which may lie beyond its end, before it is read or
#: written: the processor does not guess by itself what a map will name.
soon_read, soon_written = _fetched(0), _fetched(1)
