package urform.faults;

import java.lang.reflect.Constructor;
import java.lang.reflect.Field;
import java.lang.reflect.RecordComponent;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import sun.reflect.ReflectionFactory;

/** What faulty code needs and sound code does not: comparing all but one component, and copying what cannot change. */
public final class Faults {
    private Faults() {}

    /** Whether two records are equal but for one component. */
    public static boolean equalSave(Record one, Object other, String except) {
        if (other == null || one.getClass() != other.getClass()) {
            return false;
        }
        for (RecordComponent component : one.getClass().getRecordComponents()) {
            if (!component.getName().equals(except) && !Objects.equals(read(component, one), read(component, other))) {
                return false;
            }
        }
        return true;
    }

    /** Another object of the same content; of a list or map, another with such elements. */
    @SuppressWarnings("unchecked")
    public static <T> T twin(T original) {
        if (original instanceof List<?> list) {
            List<Object> twins = new ArrayList<>();
            list.forEach(each -> twins.add(twin(each)));
            return (T) twins;
        }
        if (original instanceof Map<?, ?> map) {
            Map<Object, Object> twins = new LinkedHashMap<>();
            map.forEach((key, each) -> twins.put(key, twin(each)));
            return (T) twins;
        }
        if (original == null || original instanceof Enum || original.getClass().getName().startsWith("java.")) {
            return original;
        }
        try {
            return (T) (original instanceof Record whole ? twinOf(whole) : twinOf(original));
        } catch (ReflectiveOperationException failure) {
            throw new IllegalStateException(failure);
        }
    }

    private static Object twinOf(Record original) throws ReflectiveOperationException {
        RecordComponent[] components = original.getClass().getRecordComponents();
        Class<?>[] types = new Class<?>[components.length];
        Object[] values = new Object[components.length];
        for (int i = 0; i < components.length; i++) {
            types[i] = components[i].getType();
            values[i] = read(components[i], original);
        }
        Constructor<?> constructor = original.getClass().getDeclaredConstructor(types);
        constructor.setAccessible(true);
        return constructor.newInstance(values);
    }

    private static Object twinOf(Object original) throws ReflectiveOperationException {
        Class<?> type = original.getClass();
        Object made = ReflectionFactory.getReflectionFactory()
                .newConstructorForSerialization(type, Object.class.getDeclaredConstructor())
                .newInstance();
        for (Class<?> each = type; each != Object.class; each = each.getSuperclass()) {
            for (Field field : each.getDeclaredFields()) {
                if (!java.lang.reflect.Modifier.isStatic(field.getModifiers())) {
                    field.setAccessible(true);
                    field.set(made, field.get(original));
                }
            }
        }
        return made;
    }

    private static Object read(RecordComponent component, Object from) {
        try {
            component.getAccessor().setAccessible(true);
            return component.getAccessor().invoke(from);
        } catch (ReflectiveOperationException failure) {
            throw new IllegalStateException(failure);
        }
    }
}
